"""What import-linter cannot see: endpoints and outputs ask the database for nothing themselves."""

import re

from django.conf import settings
from django.test import SimpleTestCase


class Layout(SimpleTestCase):
    def test_no_endpoint_and_no_output_queries(self):
        files = [*settings.BASE_DIR.glob("server/**/*api.py"), *settings.BASE_DIR.glob("server/**/outputs.py")]
        self.assertGreater(len(files), 15)
        for path in files:
            with self.subTest(path.relative_to(settings.BASE_DIR)):
                self.assertIsNone(
                    re.search(r"\.objects\b|select_related|prefetch_related|\.save\(", path.read_text(encoding="utf-8"))
                )
