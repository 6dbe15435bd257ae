"""Settings from the environment: typed, and errors that name the variable."""

from __future__ import annotations

import os
from unittest import TestCase, mock

from django.core.exceptions import ImproperlyConfigured

from web.settings import env


class EnvTest(TestCase):
    def test_values_are_read_by_their_type(self) -> None:
        given = {"A": "x", "B": "a, b,", "C": "Yes", "D": "12", "E": "off"}
        with mock.patch.dict(os.environ, given):
            self.assertEqual(env.text("A"), "x")
            self.assertEqual(env.words("B"), ["a", "b"])
            self.assertTrue(env.truth("C", default=False))
            self.assertFalse(env.truth("E", default=True))
            self.assertEqual(env.number("D", 1), 12)
            self.assertEqual(env.number("NOT_SET", 7), 7)

    def test_what_cannot_be_read_names_the_variable(self) -> None:
        with mock.patch.dict(os.environ, {"BAD_TRUTH": "perhaps", "BAD_NUMBER": "many"}):
            for call in (
                lambda: env.text("MISSING_ONE"),
                lambda: env.truth("BAD_TRUTH", default=True),
                lambda: env.number("BAD_NUMBER", 1),
            ):
                with self.assertRaisesRegex(ImproperlyConfigured, "MISSING_ONE|BAD_TRUTH|BAD_NUM"):
                    call()
