"""Sixty made-up copies with faults by chance, read by hand: what is found against what was put in.

Each value should be within two of its stated errors nine times of ten, at least.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from optics import Kit
from optics.lens.focusing import travel_per_degree
from simulator.lens import Lens as MadeUp
from web.bag.models import Lens
from web.bench.kinds import KINDS, circle, infinity, made_up, scale
from web.bench.kinds.base import Job
from web.bench.models import Reading, Test, plain

COPIES = 60
LENS = Lens(
    name="50 mm f/1.8", shortest_mm=50, longest_mm=50, widest=1.8, closest_mm=450, throw_deg=180
)


class CopiesTest(SimpleTestCase):
    def found(self, kind: str, reads: Any, count: int) -> Iterator[tuple[MadeUp, Any]]:
        """Copies, and what readings of each tell."""
        for seed in range(COPIES):
            made = made_up.lens_with_faults(LENS, seed)
            readings = tuple(
                Reading(pk=k + 1, values=plain(reads(LENS, np.random.default_rng((seed, k)), k,
                                                     made)))
                for k in range(count)
            )  # fmt: skip
            kit = Kit(50.0, 0.025, apertures=(1.8, 22.0))
            test = Test(lens=LENS, kind=kind)
            yield made, KINDS[kind].find(Job(test, (), readings, kit, None, 2000.0, "m"))

    def often(self, within: list[bool]) -> None:
        self.assertEqual(len(within), COPIES)
        self.assertGreaterEqual(sum(within), 0.9 * COPIES)

    def test_infinity(self) -> None:
        within, errors = [], []
        for made, result in self.found("infinity", infinity._made_up, 8):
            (line,) = result.lines
            within.append(abs(line.off - made.faults.infinity) <= 2.0 * line.off_error)
            errors.append(line.off_error)
        self.often(within)
        self.assertLess(max(errors), 0.02, "and the error is of use")

    def test_throw_and_infinity_of_a_ring(self) -> None:
        """By degrees that were read: infinity where the copy has it, and the ring's own throw."""
        per = travel_per_degree(LENS.ring, 50.0)
        throw, off = [], []
        for made, result in self.found("scale", scale._made_up, 6):
            law = result.turned
            throw.append(abs(law.throw - 180.0) <= 2.0 * law.throw_error)
            true = -made.faults.infinity / per
            off.append(abs(law.infinity - true) <= 2.0 * law.infinity_error)
        self.often(throw)
        self.often(off)

    def test_the_circle_of_a_bar(self) -> None:
        within = []
        for made, result in self.found("circle", circle._made_up, 5):
            hidden = 0.018 + 0.02 * (0.5 + 4.0 * made.faults.infinity)
            within.append(abs(result.circle - hidden) <= 2.0 * result.error)
            self.assertTrue(math.isfinite(result.stops))
        self.often(within)
