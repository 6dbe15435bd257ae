"""Nothing that can be typed breaks a planner: nonsense, and every lens and scene there is."""

from __future__ import annotations

from django.http import QueryDict
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from optics.scene.schools import OFFERED
from tests import examples
from tests.web.links import HTMX, changed
from web.sky import folds as of_sky
from web.sky.sample import GEAR as SKY
from web.street import folds as of_street
from web.street.sample import GEAR as STREET
from web.view import folds as of_view
from web.view.choices import Choose, How, Look, Role
from web.view.forms import sample_query
from web.view.sample import GEAR as VIEW

FOLDS = {"/view/": of_view.ALL, "/street/": of_street.ALL, "/sky/": of_sky.ALL}
NUMBERS = (
    "0", "-8", "1e9", "nan", "inf", "-inf", "1e-320", "9" * 200, "1e400", "0.1 m", "3000", "128",
    "0.5", "1", "4'", "0.06 m", "0.3 m",
)  # fmt: skip
WORDS = ("abc", "\x00", "ft", "∞", "m", "hyperfocal", "between", "size", "sky")
PAIRS = (
    "3 0", "1 300", "0.1 500", "10 -200", "0.1 -200", "10 500", "2 22", "22 2", "1 1", "0 0",
    "0.5 128", "nan 1", "1 inf", "50 50", "100 100",
)  # fmt: skip
"""Values that are two numbers: pupils, a range of apertures, a place in the frame."""
TYPED = st.one_of(st.text(max_size=30), st.sampled_from(NUMBERS + WORDS), st.sampled_from(PAIRS))
MOVES = (
    "drag_mm",
    "ring_step",
    "axis_near_mm",
    "axis_far_mm",
    "read_in",
    "at",
    "renumber",
    "mark_step",
    "mark_by",
)
OF_MARKS = tuple(
    f"mark_{name}"
    for name in ("name", "distance", "role", "how", "error", "share", "stands", "at", "speed")
)
PUPILS = st.one_of(st.just(""), st.sampled_from(PAIRS))
INSIDE_THE_LENS = (
    "focal_length_mm=24&f_number=8&circle_mm=0.025&format=full-frame&pixels_across=6000"
    "&mark_name=A&mark_role=must"
)


class NonsenseTest(TestCase):
    def assert_drawn(self, page: str) -> None:
        """A picture, and no coordinate in it that is not a number."""
        self.assertIn("<svg", page)
        self.assertNotRegex(page, r' (d|x|y|transform)="[^"]*(nan|inf)')

    def assert_answers(
        self, path: str, query: QueryDict, pairs: list[tuple[str, str]], fragment: bool
    ) -> None:
        for name, text in pairs:
            query.appendlist(name, text)
        unfolded = " ".join(fold.id for fold in FOLDS[path])
        headers = {**HTMX, "Aim-Unfolded": unfolded} if fragment else {}
        answer = self.client.get(path, query, headers=headers)
        self.assertIn(answer.status_code, (200, 302))
        if answer.status_code == 200:
            self.assert_drawn(answer.content.decode())

    def of(self, gear: dict[str, str]) -> QueryDict:
        query = QueryDict(mutable=True)
        query.update(gear)
        return query

    @settings(max_examples=examples(60))
    @given(
        st.lists(st.tuples(st.sampled_from([*VIEW, *OF_MARKS, *MOVES]), TYPED), max_size=14),
        PUPILS,
        st.booleans(),
    )
    def test_view(self, pairs: list[tuple[str, str]], pupils: str, fragment: bool) -> None:
        more = [("lens", ""), ("lens_pupils", pupils)] if pupils else []
        self.assert_answers("/view/", sample_query(), pairs + more, fragment)

    @settings(max_examples=examples(40))
    @given(
        st.lists(st.tuples(st.sampled_from([*STREET, *MOVES]), TYPED), max_size=8),
        PUPILS,
        st.booleans(),
    )
    def test_street(self, pairs: list[tuple[str, str]], pupils: str, fragment: bool) -> None:
        more = [("lens", ""), ("lens_pupils", pupils)] if pupils else []
        self.assert_answers("/street/", self.of(STREET), pairs + more, fragment)

    @settings(max_examples=examples(40))
    @given(
        st.lists(st.tuples(st.sampled_from([*SKY, *MOVES]), TYPED), max_size=8),
        PUPILS,
        st.booleans(),
    )
    def test_sky(self, pairs: list[tuple[str, str]], pupils: str, fragment: bool) -> None:
        more = [("lens", ""), ("lens_pupils", pupils)] if pupils else []
        self.assert_answers("/sky/", self.of(SKY), pairs + more, fragment)

    def test_what_is_inside_the_lens_is_said_beside_it(self) -> None:
        """A mark nearer than the entrance pupil, or than the principal planes let it come."""
        for pupils, distance in (("3 0", "0.06 m"), ("1 300", "0.3 m"), ("10 500", "0.4 m")):
            with self.subTest(pupils):
                link = f"/view/?{INSIDE_THE_LENS}&lens_pupils={pupils}&mark_distance={distance}"
                page = self.client.get(link)
                self.assertContains(page, 'class="message wrong" id="message-mark-0"')
                self.assertContains(page, "Too near")
                self.assert_drawn(page.content.decode())

    @settings(max_examples=examples(30))
    @given(
        st.floats(1, 3000),
        st.floats(0.5, 128),
        st.floats(0.0005, 1),
        st.lists(st.one_of(st.floats(0.004, 1e7), st.just("inf")), max_size=6),
        st.one_of(st.just(""), st.floats(0.004, 1e6), st.just("inf")),
        st.sampled_from([school.key for school in OFFERED]),
        st.sampled_from(["m", "ft"]),
        st.integers(-100, 100),
        st.fixed_dictionaries(
            {
                "look": st.sampled_from(Look.values),
                "choose": st.sampled_from(Choose.values),
                "diffraction": st.sampled_from(["", "1"]),
                "camera_height": st.sampled_from(["", "0.1 m", "1.6 m", "30 m"]),
                "tilt_deg": st.sampled_from(["-60", "0", "15", "90"]),
                "moved": st.sampled_from(["", "0.4 m", "-0.2 m"]),
                "slope_deg": st.sampled_from(["", "10", "-20"]),
                "keep": st.sampled_from(["", "B"]),
                "trial_soft": st.sampled_from(["", "A", "AC"]),
                "metered_f": st.just("8"),
                "metered_time": st.just("1/30"),
                "dusk": st.just("1"),
                "leaves": st.sampled_from(["", "breeze"]),
            }
        ),
        st.lists(st.sampled_from(Role.values), min_size=6, max_size=6),
        st.lists(st.sampled_from(How.values), min_size=6, max_size=6),
        st.lists(st.sampled_from(["", "20 70", "50 10"]), min_size=6, max_size=6),
    )
    def test_every_lens_and_scene_gives_a_picture(
        self, focal: float, n: float, circle: float, marks: list[object], ring: object,
        place: str, system: str, step: int, more: dict[str, str], roles: list[str],
        hows: list[str], places: list[str],
    ) -> None:  # fmt: skip
        query = changed(
            focal_length_mm=str(focal), f_number=str(n), circle_mm=str(circle), ring=str(ring),
            place=place, units=system, **more,
        )  # fmt: skip
        query.setlist("mark_distance", [str(mark) for mark in marks])
        for name, texts in (("role", roles), ("how", hows), ("at", places)):
            query.setlist(f"mark_{name}", texts)
        query.setlist("mark_share", ["30 %"] * 6)
        query.setlist("mark_speed", ["1 m/s"] * 3)
        self.assert_drawn(self.client.get("/view/", query).content.decode())
        query.update({"ring_step": str(step), "axis_near_mm": "700", "axis_far_mm": "inf"})
        moved = self.client.get("/view/", query, headers=HTMX)
        self.assertEqual(moved.status_code, 200)
        self.assert_drawn(moved.content.decode())
