"""The press: within its time, one at a time, an honest no beyond, and none of it left behind."""

from __future__ import annotations

import threading
import time
from unittest import mock

from django.test import TestCase

from tests.web.links import changed
from web.demo.world import load
from web.ui import press, printing
from web.ui.press import Busy, Press, TooLong
from web.view import sheet

SHORT = "<p>One</p>"
LONG = "<p>Line</p>" * 20_000


class PressTest(TestCase):
    def setUp(self) -> None:
        self.press = Press((), printing.OURS)
        self.addCleanup(self.press.close)

    def test_the_first_that_fits_and_else_the_last(self) -> None:
        two = "<p style='break-after: page'>One</p><p>Two</p>"
        four = "<p style='break-after: page'>One</p>" * 3 + "<p>Two</p>"
        for tries, which in (
            ([SHORT, two], 0), ([two, SHORT, two], 1), ([two, two, two], 2),
            ([four, SHORT, SHORT, two], 2),
        ):  # fmt: skip
            found, data = self.press.set(tries, 1)
            self.assertEqual(found, which)
            self.assertTrue(data.startswith(b"%PDF"))
            self.assertEqual(self.press.set(tries, 1, number_only=True), (which, b""))

    def test_what_takes_too_long_is_stopped_and_the_next_is_served(self) -> None:
        self.press.set([SHORT], 1)
        with mock.patch.object(press, "SECONDS", 0.5):
            begun = time.monotonic()
            with self.assertRaises(TooLong):
                self.press.set([LONG], 1)
            self.assertLess(time.monotonic() - begun, 5)
        self.assertTrue(self.press.set([SHORT], 1)[1])

    def test_beyond_one_printing_and_one_waiting_the_rest_are_told(self) -> None:
        said: list[str] = []

        def ask(html: str) -> None:
            try:
                self.press.set([html], 1)
                said.append("printed")
            except (Busy, TooLong) as error:
                said.append(type(error).__name__)

        with mock.patch.multiple(press, SECONDS=2.0, WAIT=0.3):
            asking = [threading.Thread(target=ask, args=(LONG,)) for _ in range(5)]
            for one in asking:
                one.start()
            for one in asking:
                one.join()
        self.assertEqual(sorted(said), ["Busy"] * 4 + ["TooLong"])

    def test_it_starts_anew_after_its_jobs(self) -> None:
        with mock.patch.object(press, "MOST_JOBS", 2):
            processes = set()
            for _ in range(4):
                self.press.set([SHORT], 1)
                assert self.press._process is not None
                processes.add(self.press._process.pid)
        self.assertEqual(len(processes), 2)


class AnsweredTest(TestCase):
    def setUp(self) -> None:
        load()

    def test_a_busy_press_says_when_to_ask_again(self) -> None:
        for why, words in ((Busy, "Others are printing"), (TooLong, "too long to set")):
            busy = mock.Mock()
            busy.set.side_effect = busy.cards.side_effect = why
            with mock.patch.object(printing, "press", return_value=busy):
                for path in ("/cards/plan/sheet.pdf", "/cards/night/card.pdf"):
                    answer = self.client.get(path)
                    self.assertContains(answer, words, status_code=503)
                    self.assertEqual(answer["Retry-After"], "10")

    def test_a_note_is_bounded_in_letters_and_lines_and_says_so_where_it_is_typed(self) -> None:
        state = changed().urlencode()
        for note, words in (("x" * 2001, "2001 letters"), ("a\n" * 41 + "b", "42 lines")):
            page = self.client.post("/view/save/", {"name": "A", "state": state, "note": note})
            self.assertContains(page, words, status_code=422)
            self.assertContains(page, note[:50], status_code=422)
        long = "\n".join(f"line {n}" for n in range(1000))
        short = sheet.shortened(long, 40, 2000)
        self.assertEqual(short.count("\n"), 40)
        self.assertIn("1920 more words", short)
        self.assertEqual(sheet.shortened("one\ntwo", 2, 20), "one\ntwo")

    def test_the_name_of_the_file_is_the_plans_in_any_script(self) -> None:
        for name, said in (
            ("Low water", 'filename="Low water, a4.pdf"'),
            ("朝の海", "filename*=utf-8''%E6%9C%9D%E3%81%AE%E6%B5%B7%2C%20a4.pdf"),
            ('a/b\\c"d\u202e', 'filename="a b c d, a4.pdf"'),
            ("...", 'filename="plan, a4.pdf"'),
        ):
            done = mock.Mock()
            done.set.return_value = (0, b"%PDF")
            with mock.patch.object(printing, "press", return_value=done):
                answer = self.client.get("/cards/plan/sheet.pdf", changed(name=name))
            self.assertEqual(answer["Content-Disposition"], f"inline; {said}")
