"""Pictures for tests."""

import io

from PIL import Image


def picture(size=(300, 200), form="JPEG", **more) -> bytes:
    """A picture of one colour."""
    made = io.BytesIO()
    Image.new("RGB", size, (180, 90, 40)).save(made, form, **more)
    return made.getvalue()


def jpeg() -> bytes:
    """A small one."""
    return picture((40, 30))
