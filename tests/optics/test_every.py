"""Every public function of the optics says what it said, called as photographers would, and oddly.

``every/population.py`` makes the arguments from the functions' own signatures, so that a new one
cannot be forgotten; ``every/values.json.xz`` has what each said, to nine figures and to the words.
Where an answer is meant to change: ``python -m tests.optics.every.record``.
"""

from __future__ import annotations

import math
import re
import unittest

import optics
from optics.lens.depth import counted_blur
from optics.zones import from_list
from tests import WHOLE, examples
from tests.optics.every.calls import all_said
from tests.optics.every.population import SETTINGS, Population
from tests.optics.every.record import changes, recorded


class EveryFunctionTest(unittest.TestCase):
    def the_same(self, room: str) -> None:
        said = all_said(room, 1 if WHOLE else 12)
        here = f"optics.{room.rstrip('.')}"
        before = {name: calls for name, calls in recorded().items() if name.startswith(here)}
        self.assertEqual(sorted(before), sorted(said), "Record anew: there are others now.")
        offered = {getattr(optics, name) for name in optics.__all__ if name.islower()}
        full = {f"{one.__module__}.{one.__name__}" for one in offered}
        for name, calls in said.items():
            with self.subTest(name):
                self.assertEqual(changes(before[name], calls), [])
                if name in full:  # nothing but its own errors comes out of the optics
                    first = [lines[0] for lines in calls if lines is not None]
                    self.assertEqual([line for line in first if "escaped" in line], [])

    def test_base(self) -> None:
        self.the_same("base.")

    def test_command(self) -> None:
        self.the_same("command.")

    def test_lens(self) -> None:
        self.the_same("lens.")

    def test_light(self) -> None:
        self.the_same("light.")

    def test_scene(self) -> None:
        self.the_same("scene.")

    def test_sky(self) -> None:
        self.the_same("sky.")

    def test_zones(self) -> None:
        self.the_same("zones.")

    def test_every_room_is_asked(self) -> None:
        rooms = {re.split(r"[. ]", name)[1] for name in recorded()}
        asked = {name.removeprefix("test_") for name in dir(self) if name.startswith("test_")}
        self.assertLessEqual(rooms, asked)


class PastInfinityTest(unittest.TestCase):
    """A focus shift can lead past infinity: nothing holds, and no limit is behind the camera."""

    def test_limits_are_in_front_of_the_camera_or_there_are_none(self) -> None:
        population = Population("limits")
        empty = 0
        for _ in range(examples(3000)):
            setup, focus = population.setup(), population.distance()
            try:
                held = optics.limits(setup, focus)
            except optics.OpticsError:
                continue
            empty += math.isnan(held.near)
            with self.subTest(setup=setup, focus=focus):
                self.assertEqual(math.isnan(held.near), math.isnan(held.far))
                self.assertFalse(held.near < 0 or held.near > held.far)
                for distance in {held.near, held.far} - {math.inf}:
                    if not math.isnan(distance) and distance > 2 * setup.focal_length:
                        blur = counted_blur(setup, distance, focus)
                        self.assertLessEqual(blur, setup.coc * (1 + 1e-6))
        self.assertGreater(empty, 10)

    def test_a_set_with_a_position_past_infinity_is_found(self) -> None:
        setup = optics.Setup(85.0, 4.0, 0.025, 1.4, 9.0, focus_shift=0.02)
        for settable in ((math.inf,), SETTINGS):
            with self.subTest(settable=settable):
                found = from_list.closing(setup, 180000.0, math.inf, 2, settable)
                assert found is not None
                worst = from_list.worst_blur(setup, found.focuses, 180000.0, math.inf)
                self.assertAlmostEqual(found.coc, worst, places=9)
