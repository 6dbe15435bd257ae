"""The dark-adapted light: red alone, and lines that can be seen."""

from __future__ import annotations

import re
from pathlib import Path
from unittest import TestCase

from django.test import TestCase as PageTestCase

WEB = Path(__file__).parents[2] / "web"
THEME = (WEB / "ui" / "static" / "ui" / "theme.css").read_text("utf-8")


def dark() -> dict[str, str]:
    """The colours of the dark, by name."""
    block = re.search(r':root\[data-light="dark"\] \{(.*?)\}', THEME, re.DOTALL)
    assert block is not None
    return dict(re.findall(r"--([\w-]+): (#[0-9a-f]+)", block[1]))


def channels(colour: str) -> list[float]:
    digits = colour[1:]
    if len(digits) == 3:
        digits = "".join(2 * digit for digit in digits)
    return [int(digits[at : at + 2], 16) / 255 for at in (0, 2, 4)]


def contrast(colour: str) -> float:
    """Of a colour on black, as readers of screens are told to reckon it."""
    linear = [one / 12.92 if one <= 0.04045 else ((one + 0.055) / 1.055) ** 2.4
              for one in channels(colour)]  # fmt: skip
    red, green, blue = linear
    return (0.2126 * red + 0.7152 * green + 0.0722 * blue + 0.05) / 0.05


class DarkColoursTest(TestCase):
    def test_what_only_separates_is_two_to_one_and_what_says_something_three(self) -> None:
        for name, least in (("rule", 2), ("edge", 3), ("tile-edge", 3), ("ink", 4.5)):
            self.assertGreaterEqual(contrast(dark()[name]), least, name)

    def test_nothing_is_green_or_blue(self) -> None:
        for name, colour in dark().items():
            self.assertLessEqual(max(channels(colour)[1:]), 0.1, name)


class OffLineTest(PageTestCase):
    def test_the_page_for_no_signal_is_dark_whoever_asks(self) -> None:
        page = self.client.get("/off-line/")
        self.assertContains(page, 'data-light="dark"')
        self.assertContains(page, "No signal")

    def test_the_script_that_keeps_pages_comes_from_the_root_and_is_asked_for_anew(self) -> None:
        script = self.client.get("/worker.js")
        self.assertEqual(script["Content-Type"], "text/javascript; charset=utf-8")
        self.assertEqual(script["Cache-Control"], "no-cache")
        self.assertEqual(script.content, (WEB / "ui/static/ui/worker.js").read_bytes())
