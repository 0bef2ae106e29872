"""Lessons in words: they fit their minutes, in both languages."""

import unittest

from galvanic.planning.lessons import LESSONS, lesson
from galvanic.words import speaking


class Lessons(unittest.TestCase):
    def test_each_lesson_has_steps_questions_and_what_goes_wrong(self):
        for key, found in LESSONS.items():
            with self.subTest(key):
                self.assertTrue(all(step.minutes > 0 for step in found.steps))
                self.assertTrue(all(ask.endswith("?") for ask in found.asks))
                self.assertTrue(found.expect and found.wrong and found.early)

    def test_a_lesson_is_said_in_the_language_around(self):
        english = lesson("demonstration")
        with speaking("de"):
            german = lesson("demonstration")
        self.assertEqual(english.minutes, german.minutes)
        for one, other in zip(english.steps, german.steps, strict=True):
            self.assertNotEqual(one.what, other.what)
        self.assertIsNone(lesson("spacing"))
