"""What import-linter cannot see: endpoints and outputs ask the database for nothing themselves."""

import re
import sys
from importlib import import_module

from django.conf import settings
from django.test import SimpleTestCase
from pydantic import BaseModel


class Layout(SimpleTestCase):
    def test_no_endpoint_and_no_output_queries(self):
        files = [*settings.BASE_DIR.glob("server/**/*api.py"), *settings.BASE_DIR.glob("server/**/outputs.py")]
        self.assertGreater(len(files), 15)
        for path in files:
            with self.subTest(path.relative_to(settings.BASE_DIR)):
                self.assertIsNone(
                    re.search(r"\.objects\b|select_related|prefetch_related|\.save\(", path.read_text(encoding="utf-8"))
                )

    def test_no_two_shapes_of_the_api_have_one_name(self):
        # the schema of the API keeps one of two shapes of the same name, in silence
        import_module("server.config.api")
        named: dict[str, set[str]] = {}
        waiting = [BaseModel]
        while waiting:
            shape = waiting.pop()
            waiting += shape.__subclasses__()
            if shape.__module__.startswith("server."):
                named.setdefault(shape.__name__, set()).add(shape.__module__)
        self.assertGreater(len(named), 100)
        self.assertEqual({name: at for name, at in named.items() if len(at) > 1}, {})

    def test_no_refusal_is_made_before_it_is_raised(self):
        # one that is raised again and again keeps what led there each time: memory that grows with every refused request
        import_module("server.config.api")
        kept = [
            f"{name}.{key}"
            for name, module in list(sys.modules.items())
            if name.startswith(("server.", "galvanic."))
            for key, value in vars(module).items()
            if isinstance(value, BaseException)
        ]
        self.assertEqual(kept, [])
