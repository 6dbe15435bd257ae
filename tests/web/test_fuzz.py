"""Whatever is asked, at any address and in any way, nothing breaks. More of it: tools/fuzz.py."""

from __future__ import annotations

import logging
import time
from unittest import mock

from django.test import Client, TestCase

from tests import chance, examples
from tests.web.fuzz import PLANNERS, addresses, asked, scene
from web.demo.world import load
from web.kept import escaped

COUNT = 360
FOUND = (
    "/view/?lens=50+mm+f/1.8&circle_mm=1",
    "/view/?lens=50+mm+f/1.8&trial_soft=ABC&mark_distance=3+m&mark_error=99+%25",
    "/view/?focal_length_mm=1&lens_pupils=1.5+-10",
    "/view/?axis_near_mm=300&axis_far_mm=5000&drag_mm=1e308",
    "/sky/?axis_near_mm=700&axis_far_mm=1e308&drag_mm=1e-300",
    "/street/?lens_pupils=0.1+500&focal_length_mm=1&circle_mm=0.1",
    "/view/?lens=50+mm+f/1.8&focal_length_mm=1&circle_mm=1&ring=inf&mark_distance=30+cm",
    "/sky/?focal_length_mm=1&f_number=2&circle_mm=0.025&pixels_across=&star_px=1.5",
)
"""What once broke."""


class FuzzTest(TestCase):
    def setUp(self) -> None:
        load()

    def test_odd_requests(self) -> None:
        dice = chance("fuzz")
        self.client.post("/you/", {"units": "m"})
        asking, made, codes = asked(dice), 0, set()
        with mock.patch.object(escaped._log, "warning") as noticed:
            for _ in range(examples(COUNT)):
                ask = next(asking)
                if ask.printed and dice.random() < 0.95:
                    continue
                begun = time.process_time()
                answer = ask.send(self.client)  # raises what broke
                made += 1
                codes.add(answer.status_code)
                self.assertEqual(noticed.call_args_list, [], ask)
                self.assertLess(answer.status_code, 500, ask)
                if not ask.printed:
                    self.assertLess(time.process_time() - begun, 3.0, ask)
        self.assertEqual(noticed.call_args_list, [], "a field takes what the core does not")
        self.assertTrue({200, 302, 404, 405, 422} <= codes)

    def test_what_was_found_before(self) -> None:
        with mock.patch.object(escaped._log, "warning") as noticed:
            for link in FOUND:
                for headers in ({}, {"HX-Request": "true", "Aim-Before": "%ff&=&" * 300}):
                    answer = self.client.get(link, headers=headers)
                    self.assertEqual(answer.status_code, 200, link)
        self.assertEqual(noticed.call_args_list, [])

    def test_what_escapes_the_fields_is_a_message_and_nothing_typed_is_lost(self) -> None:
        logging.disable(logging.WARNING)
        self.addCleanup(logging.disable, logging.NOTSET)
        broken = mock.patch.multiple(
            "optics.lens.depth", limits=mock.Mock(side_effect=ZeroDivisionError)
        )
        for app, page in PLANNERS.items():
            real, calls = page.answered, []

            def once(asked: object, real: object = real, calls: list[int] = calls) -> object:
                calls.append(1)
                if len(calls) == 1:
                    raise ZeroDivisionError
                return real(asked)  # type: ignore[operator]

            with mock.patch.object(page, "answered", once):
                answer = self.client.get(f"/{app}/?focal_length_mm=77&lens=&mark_name=Winch&"
                                         "mark_distance=4.2+m&mark_role=nice")  # fmt: skip
            text = answer.content.decode()
            self.assertEqual(answer.status_code, 200)
            self.assertIn("does not go together", text)
            self.assertIn('value="77"', text)
            if app == "view":
                self.assertIn('value="Winch"', text)
                self.assertIn('value="4.2 m"', text)
        del broken
        with mock.patch("web.view.sheet.answer_of", side_effect=ZeroDivisionError):
            answer = self.client.get("/cards/plan/sheet/")
        self.assertContains(answer, "cannot be worked out", status_code=422)

    def test_head_is_get_without_its_body(self) -> None:
        for route, name in addresses():
            if "<" in route or name.endswith("_pdf"):
                continue
            got, head = self.client.get(route), self.client.head(route)
            self.assertEqual(head.status_code, got.status_code, route)
            self.assertEqual(head.content, b"", route)

    def test_the_same_dice_ask_the_same(self) -> None:
        first, second = (asked(chance("same")) for _ in range(2))
        for _ in range(20):
            self.assertEqual(str(next(first)), str(next(second)))
        self.assertTrue(scene(chance(1), "sky"))
        self.assertEqual(Client().get("/sky/").status_code, 200)
