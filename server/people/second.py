"""The second step of signing in: a code from an app (TOTP, RFC 6238), and recovery codes for a lost phone."""

from __future__ import annotations

import base64
import hashlib
import secrets

from django.db import transaction
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from galvanic.words import mark, say
from server.base.problems import Problem, Refusal
from server.people.deeds import keep_deed
from server.people.models import Teacher

RECOVERY_CODES = 10
WRONG_CODE = Refusal(
    401,
    "wrong_code",
    mark("That is not the code your app shows now. Wait for the next one and type that."),
    field="code",
    passing=False,
)
CODE_ASKED = Refusal(
    401,
    "code_asked",
    mark("Now the six digits that your app shows, or one of your recovery codes."),
    field="code",
    passing=False,
)


def is_on(teacher: Teacher) -> bool:
    """Whether signing in takes a second step."""
    return bool(TOTPDevice.objects.filter(user=teacher, confirmed=True).exists())


def recovery_left(teacher: Teacher) -> int:
    """How many recovery codes are left."""
    return int(StaticToken.objects.filter(device__user=teacher).count())


@transaction.atomic
def begin(teacher: Teacher) -> TOTPDevice:
    """A new secret for an app; it counts once a code of it has been typed. Raises Problem second_on."""
    if is_on(teacher):
        raise Problem(409, "second_on", say("The second step is on already. Turn it off first to change to another phone."))
    TOTPDevice.objects.filter(user=teacher).delete()
    device: TOTPDevice = TOTPDevice.objects.create(user=teacher, name="app", confirmed=False)
    return device


def secret_of(device: TOTPDevice) -> str:
    """The secret in the letters that apps take, in groups of four."""
    plain = base64.b32encode(device.bin_key).decode().rstrip("=")
    return " ".join(plain[i : i + 4] for i in range(0, len(plain), 4))


@transaction.atomic
def confirm(teacher: Teacher, code: str) -> list[str]:
    """Turn the second step on with the app's first code; returns the recovery codes, which are kept only as hashes.

    Raises Problem: wrong_code, or not_begun.
    """
    device = TOTPDevice.objects.select_for_update().filter(user=teacher, confirmed=False).first()
    if device is None:
        raise Problem(409, "not_begun", say("Begin with your password: it shows the code for your app."))
    if not device.verify_token(_plain(code)):
        raise WRONG_CODE()
    device.confirmed = True
    device.save(update_fields=["confirmed"])
    keep_deed(teacher, "second_on")
    return _new_codes(teacher)


def _new_codes(teacher: Teacher) -> list[str]:
    StaticDevice.objects.filter(user=teacher).delete()
    kept = StaticDevice.objects.create(user=teacher, name="recovery")
    codes = ["-".join(secrets.token_hex(2) for _ in range(3)) for _ in range(RECOVERY_CODES)]
    StaticToken.objects.bulk_create(StaticToken(device=kept, token=_hashed(code)) for code in codes)
    return codes


def _plain(code: str) -> str:
    return "".join(code.split()).replace("-", "").casefold()


def _hashed(code: str) -> str:
    return hashlib.sha256(_plain(code).encode()).hexdigest()[:16]


def end(teacher: Teacher) -> None:
    """Turn the second step off."""
    there, _ = TOTPDevice.objects.filter(user=teacher, confirmed=True).delete()
    StaticDevice.objects.filter(user=teacher).delete()
    if there:
        keep_deed(teacher, "second_off")


@transaction.atomic
def passes(teacher: Teacher, code: str) -> bool:
    """Whether a code is the app's, used once, or a recovery code, which is used up by it."""
    device = TOTPDevice.objects.select_for_update().filter(user=teacher, confirmed=True).first()
    if device is not None and device.verify_token(_plain(code)):
        return True
    kept = StaticDevice.objects.select_for_update().filter(user=teacher).first()
    if kept is None or not kept.verify_token(_hashed(code)):
        return False
    keep_deed(teacher, "recovery_code", about=f"{recovery_left(teacher)} left")
    return True
