"""Whoever works in feet reads feet and inches: in answers, examples and messages."""

from __future__ import annotations

import html
import re

from django.http import QueryDict
from django.test import SimpleTestCase, TestCase

from optics.base import settable, units
from web.bag.models import Body, Lens, Standard
from web.demo.world import load
from web.people.models import Owner
from web.ui.wording import told_in

METRIC = re.compile(r"(?<![\w“])[\d.]*[\d½¼¾] ?(?:km|cm|m)(?:/s)?\b(?! 30)")
SAID_IN_BOTH = ("130 cm",)
"""How distances may be written, which the help shows."""


def metric_in(page: str) -> list[str]:
    """What a page says in metres: in its text, in its fields and in what stands for them."""
    page = re.sub(r"<(script|style).*?</\1>", "", page, flags=re.S)
    inside = re.findall(r'(?:placeholder|value|aria-label|title)="([^"]*)"', page)
    text = " | ".join([re.sub(r"<[^>]+>", " ", page), *inside])
    found = METRIC.findall(re.sub(r"“[^”]*”", "", html.unescape(text)))
    return [each for each in found if each not in SAID_IN_BOTH]


class FeetTest(TestCase):
    def setUp(self) -> None:
        load()
        self.client.get("/you/")
        self.client.post(
            "/you/",
            {
                "units": "ft",
                "pace_mm": "2' 6\"",
                "arm_mm": "2' 1\"",
                "eye_height_mm": "5' 3\"",
                "judgement_error": "15",
            },
        )
        self.assertEqual(set(Owner.objects.exclude(is_sample=True).values_list("units")), {("ft",)})

    def test_every_page(self) -> None:
        for path in (
            "/bag/", "/bag/lens/new/", "/bag/body/new/", "/bag/standard/new/", "/bag/adapter/new/",
            *(f"/bag/{kind.__name__.lower()}/{thing.pk}/" for kind in (Lens, Body, Standard)
              for thing in kind.objects.all()),
            "/view/", "/street/", "/sky/", "/you/",
            "/street/?units=ft&near=3+ft&far=30+ft&home=6+ft&count=3&f_number=2.8&locked=5+ft",
            "/street/?units=ft&count=1&f_number=2&near=4+ft&far=20+ft",
            "/view/?units=ft&camera_height=3+ft&tilt_deg=15&mark_name=A&mark_distance=4+ft"
            "&mark_role=must&mark_name=B&mark_distance=600+ft&mark_role=must&metered_f=8"
            "&metered_time=1/60&unfold=way,rescue,light,lens,frame,why,aperture",
        ):  # fmt: skip
            with self.subTest(path):
                page = self.client.get(path)
                self.assertEqual(page.status_code, 200)
                self.assertEqual(metric_in(page.content.decode()), [])

    def test_every_message(self) -> None:
        for path in ("/view/", "/street/", "/sky/"):
            texts = re.findall(
                r'<(?:input|textarea)[^>]*name="(\w+)"', self.client.get(path).content.decode()
            )
            for wrong in ("0.001 in", "99999 mi", "-1", "?"):
                asked = QueryDict(mutable=True)
                for name in set(texts) - {"units", "lens", "format"}:
                    asked[name] = wrong
                asked["units"] = "ft"
                with self.subTest(path, wrong=wrong):
                    page = self.client.get(f"{path}?{asked.urlencode()}")
                    self.assertEqual(page.status_code, 200)
                    self.assertIn('aria-invalid="true"', page.content.decode())
                    self.assertEqual(metric_in(page.content.decode()), [])

    def test_messages_of_the_bag(self) -> None:
        for slug in ("lens", "body", "standard", "adapter"):
            form = self.client.get(f"/bag/{slug}/new/").content.decode()
            names = re.findall(r'<(?:input|textarea|select)[^>]*name="(\w+)"', form)
            for wrong in ("0.001 in", "99999 mi", "?"):
                with self.subTest(slug, wrong=wrong):
                    said = {name: wrong for name in names if name not in ("once", "name")}
                    page = self.client.post(f"/bag/{slug}/new/", {**said, "name": "Mine"})
                    self.assertEqual(page.status_code, 422)
                    self.assertEqual(metric_in(page.content.decode()), [])


class ToldInTest(SimpleTestCase):
    def test_examples_and_limits(self) -> None:
        for metric, feet in (
            ("straight down at 1.2 m", "straight down at 4 ft"),
            ("0.7 m: 108\n1 m: 74\ninf: 0", "2½ ft: 108\n3½ ft: 74\ninf: 0"),
            ("A print is 1 cm to 50 m wide.", "A print is ½ in to 160 ft wide."),
            ("1.4 m/s", "4.6 ft/s"),
            ("about 10 cm", "about 4 in"),
            ("“1.2 m” is not one", "“1.2 m” is not one"),
            ("28 mm f/2.8", "28 mm f/2.8"),
        ):
            self.assertEqual(told_in(metric, "ft"), feet)
            self.assertEqual(told_in(metric, "m"), metric)

    def test_what_is_invited_lies_within_the_limits(self) -> None:
        for low, high in ((10, 50_000), (100, 100_000), (50, 500_000), (100, 1_000_000)):
            said = f"from {low / 10:g} cm to {high / 1000:g} m"
            ends = re.findall(r"[\d.½¼¾]+ (?:in|ft)", told_in(said, "ft"))
            near, far = (units.parse(end, "ft") for end in ends)
            self.assertGreaterEqual(near, low)
            self.assertLessEqual(far, high)

    def test_small_sizes(self) -> None:
        for length, metric, feet in (
            (1.13, "1.1 mm", "0.044 in"), (9.96, "1 cm", "0.39 in"), (280, "28 cm", "11 in"),
            (996, "1 m", "3.3 ft"), (15000, "15 m", "49 ft"), (0, "0 mm", "0 in"),
        ):  # fmt: skip
            self.assertEqual(units.write_size(length), metric)
            self.assertEqual(units.write_size(length, "ft"), feet)
        self.assertEqual(units.write_size(289, least=True), "28 cm")
        self.assertEqual(units.write_size(289, "ft", least=True), "11 in")
        self.assertEqual(settable.floored(289), 280)
