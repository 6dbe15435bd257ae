"""Arguments for every function of the optics, as photographers have them, by name and by kind.

``Population.of`` makes a value for a parameter from its name, or else from its annotation. A
parameter that it knows nothing of is a failure of the test that asks: teach it here what it is.
Values come from short lists, so that things meet exactly: a mark at a limit, a setting on a mark.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from random import Random
from typing import Any

import numpy as np

from optics import Camera, Kit, Limits, Mark, Print, Ring, Scene, Setup, Wish
from optics.base.formats import FORMATS
from optics.base.settable import Span
from optics.base.units import Measures
from optics.lens import aperture, focusing
from optics.lens.cone import Cone
from optics.lens.conjugates import magnification
from optics.lens.kit import Fault
from optics.lens.standards import CLASSIC_EYE, KEEN_EYE
from optics.lens.touch import Hands
from optics.light.exposure import Gives
from optics.light.taking import Taking
from optics.scene import schools, trial_frame
from optics.scene.after_trial import Trial
from optics.scene.answer import answer
from optics.scene.camera import Camera as Standing
from optics.scene.choosing import tried
from optics.scene.marks import Ends, Look
from optics.scene.movement import Movement, movement
from optics.scene.placing import Placer, place
from optics.scene.rescue import Asked
from optics.scene.scenes import Choose
from optics.sky.fractions import Framed
from optics.sky.parts import Part, frame_part, round_part
from optics.sky.rotation import Place
from optics.zones.hit_rate import Stretch
from optics.zones.listed import Listed
from optics.zones.stretches import Tile
from optics.zones.subjects import People, Spread
from optics.zones.tiling import Zone, zone_at
from tests.optics.every.names import BY_NAME, CHOICES, DISTANCES, F_NUMBERS, ODD, SETTINGS, THERE
from tests.optics.every.small import exposure, night, pocket

CROWDS = ((math.inf, Spread.ROUND, 1400.0), (5000.0, Spread.STRIDE), (9000.0, Spread.ROUND, 3e3))


def near(one: float) -> float:
    """A straight line with a step: what a search looks for."""
    return one - 0.3


class Population:
    """Arguments, made one after the other from a seed; the same for the same seed."""

    def __init__(self, seed: str) -> None:
        self.random = Random(seed)
        self.exposing = Random(f"{seed} exposing")
        self.kinds: dict[str, Callable[[], Any]] = {
            "Setup": self.setup, "Setup[Any]": self.setup, "Kit": self.kit, "Ring": self.ring,
            "Scene": self.scene, "Mark": self.mark, "Camera": self.camera, "Window": self.window,
            "Ends": lambda: Ends(*self.ends()), "Look": self.look, "Format": self.format,
            "Eye": lambda: self.random.choice((CLASSIC_EYE, KEEN_EYE)), "Print": self.print,
            "Answer": lambda: answer(self.scene()), "Placement": lambda: place(self.scene()),
            "Placer": lambda: Placer(self.scene()), "Taking": self.taking,
            "Movement": self.movement, "Zone": self.zone,
            "Part": self.part, "Place": lambda: Place(self.random.choice((0.0, 5.0)), 3.0),
            "Hands": lambda: Hands(self.ring(), self.random.choice((0.0, 2.0, math.pi)),
                self.random.choice((math.inf, 2000.0)), self.random.choice((1, -1))),
            "Framed": lambda: Framed(36.0, 24.0, self.random.choice((None, 0.5))),
            "Cone": lambda: Cone.at(self.setup(), 0.01), "Asked": self.asked,
            "Measures": lambda: Measures(700.0, 650.0, 1600.0), "Error": self.error,
            "School": lambda: self.random.choice(schools.SCHOOLS), "Tile": self.tile,
            "Series": lambda: self.random.choice((aperture.FULL, aperture.HALVES, aperture.THIRDS)),
            "Span": lambda: Span(*self.ends(), 0.0), "Limits": lambda: Limits(*self.ends()),
            "Wish": self.wish, "Night": lambda: night(self.random),
            "Exposure": lambda: exposure(self.random),
            "Listed": lambda: Listed.of(self.setup(), SETTINGS, ()), "Fault": self.fault,
            "schools.Seen": lambda: schools.Seen.of(self.scene()),
            "Trial": lambda: Trial(
                self.distance(), self.random.choice(F_NUMBERS),
                *self.random.choice((("A", ""), ("", "AB"), ("B", "A"), ("", "")))),
            "TriedAperture": lambda: next(tried(self.scene(), (self.random.choice(F_NUMBERS),))),
            "Frame": self.frame_taken,
            "Callable[[float], float]": lambda: near, "Spread": lambda: Spread.ROUND,
            "float | Zone": lambda: self.random.choice((self.zone(), self.distance())),
            "Stretch": lambda: Stretch(*sorted((self.random.choice((0.0, 6.5, 7.2)), 9.0))),
            "People": lambda: People(700.0, *self.random.choice(CROWDS)),
            "bool": lambda: self.random.random() < 0.5, **pocket(self.random),
        }  # fmt: skip

    def of(self, name: str, kind: str, where: str) -> Any:
        """A value for a parameter. ``kind``: its annotation; ``where``: the module that asks.

        Raises LookupError for what nothing is known of.
        """
        plain = kind.removesuffix(" | None")
        if plain != kind and self.random.random() < (0.1 if name == "keep" else 0.4):
            return None
        kind = plain
        for outer in ("Sequence[", "Iterable[", "Set[", "list["):
            if kind.startswith(outer):
                return self.many(name, kind[len(outer) : -1], where)
        if kind.startswith("tuple[") and kind.endswith(", ...]"):
            return self.many(name, kind[6:-6], where)
        if kind.startswith("tuple["):
            parts = kind[6:-1].split(", ")
            return tuple(self.of(name, part, where) for part in parts)
        if kind == "Seen":
            kind = "schools.Seen"
        if kind in CHOICES:
            return self.random.choice(CHOICES[kind])
        if kind in self.kinds:
            return self.kinds[kind]()
        if kind in ("float", "int", "Any", "Number", "npt.ArrayLike", "Array", "str"):
            return self.number(name, kind, where)
        raise LookupError(f"{where}: nothing is known of {name}: {kind}")

    def number(self, name: str, kind: str, where: str) -> Any:
        if kind == "float" and self.random.random() < 0.03:
            return self.random.choice(ODD)
        known = THERE.get(where, {}).get(name) or BY_NAME.get(name)
        if known:
            value = self.random.choice(known)
        elif name == "ring":
            value = self.random.choice((0.0, 0.001, 0.01, 0.05))
        elif kind == "str":
            raise LookupError(f"nothing is known of the text {name}")
        else:
            value = self.distance()
        return np.asarray(value) if kind == "Array" else value

    def many(self, name: str, kind: str, where: str) -> tuple[Any, ...]:
        if name in ("settable", "ring"):
            return self.random.choice((SETTINGS, SETTINGS, SETTINGS, SETTINGS[2:5], ()))
        if name in BY_NAME and isinstance(BY_NAME[name][0], tuple):
            return tuple(self.random.choice(BY_NAME[name]))
        if name == "marks" and "tuple" in kind:
            return (
                (pick_depth := self.random.choice((1300.0, 1200.0)), 0.1 * pick_depth),
                (self.random.choice((8000.0, math.inf)), self.random.choice((0.0, 900.0))),
            )
        if name == "order":
            return tuple(self.random.sample(tuple(Gives), 2))
        if name in ("soft", "sharp", "looked_at"):
            return frozenset(self.random.sample("ABC", self.random.choice((0, 1, 1, 2))))
        if name == "apertures" or name == "f_numbers":
            return (2.8, 4.0, 5.6, 8.0, 11.0, 16.0)
        if name == "names":
            return aperture.THIRDS.names
        if name == "start":
            return (0, 2, 4)
        count = self.random.choice((0, 1, 2)) if name == "fixed" else self.random.choice((1, 2, 3))
        found = [self.of(name, kind, where) for _ in range(count)]
        if found and isinstance(found[0], (float, Zone, Tile)):
            found.sort(key=lambda one: one.focus if hasattr(one, "focus") else one)
        return tuple(found)

    def distance(self) -> float:
        return self.random.choice(DISTANCES)

    def ends(self) -> tuple[float, float]:
        one, other = self.distance(), self.distance()
        return min(one, other), max(one, other)

    def setup(self) -> Setup:
        pick = self.random.choice
        pupil, hiatus = pick(((1.0, 0.0), (1.0, 0.0), (0.8, -6.0), (1.4, 9.0)))
        return Setup(
            pick((14.0, 24.0, 35.0, 50.0, 85.0)), pick(F_NUMBERS), pick((0.01, 0.02, 0.025, 0.03)),
            pupil, hiatus, pick((False, False, True)), pick((0.0, 0.0, 0.008)),
            pick((0.0, 0.0, 0.0, 0.02, -0.03)),
        )  # fmt: skip

    def fault(self) -> Fault:
        pick = self.random.choice
        return Fault(pick((1.4, 2.8, 5.6, 11.0)), pick((0.0, 0.008)), pick((0.0, 0.02)))

    def frame_taken(self) -> trial_frame.Frame:
        """A trial frame of two marks."""
        pick = self.random.choice
        setup = Setup(24.0, pick((8.0, 11.0)), 0.025)
        came = (pick((True, False, None)), pick((True, False, None)))
        return trial_frame.Frame(setup, pick((2000.0, 2300.0, 2600.0, math.inf)), came)

    def kit(self) -> Kit:
        setup, faults = (
            self.setup(),
            {self.fault() for _ in range(self.random.choice((0, 0, 1, 2)))},
        )
        each = {fault.f_number: fault for fault in faults}
        first = self.random.choice((0, 0, 6))
        return Kit(
            setup.focal_length, setup.coc, setup.pupil_ratio, setup.hiatus, setup.diffraction,
            aperture.THIRDS.from_to(1.4, 22)[first:], self.random.choice((0.0, 250.0, 450.0)),
            tuple(each[number] for number in sorted(each)),
        )  # fmt: skip

    def ring(self) -> Ring:
        marks = ((400.0, 1.55), (500.0, 1.2), (700.0, 0.82), (1000.0, 0.55), (1500.0, 0.36),
                 (2000.0, 0.26), (3000.0, 0.17), (5000.0, 0.1), (math.inf, 0.0))  # fmt: skip
        way = self.random.randrange(4)
        if way == 0:
            return Ring(marks)
        if way == 1:
            return Ring(((distance, -angle) for distance, angle in marks[2:]), 35.0)
        if way == 2:
            return Ring((marks[1], marks[4], marks[-1]), 50.0, 9.0)
        return Ring.unit_focusing(self.random.choice((24.0, 50.0)), 2.5, 450.0)

    def wish(self) -> Wish:
        return self.random.choice((Wish.SHARP,) * 4 + tuple(Wish))

    def mark(self, about: float = 2000.0) -> Mark:
        depth = about * self.random.choice((0.7, 1.0, 1.25, 1.6, 2.0, 4.0, 40.0, math.inf))
        doubt = 0.0 if depth == math.inf else depth * self.random.choice((0.0, 0.0, 0.05, 0.2))
        place = self.random.choice((None, (0.5, 0.3), (0.2, 0.7)))
        speed = self.random.choice((None, None, 300.0))
        rise = self.random.choice((0.0, 0.0, 400.0))
        return Mark(depth, doubt, self.wish(), 2.0, "Thing", "", rise, place, speed)

    def camera(self) -> Camera:
        pick = self.random.choice
        return Standing(
            pick((300.0, 900.0, 1500.0)), pick((0.0, 0.1, 0.26)), pick((0.0, 0.0, 0.1)),
            pick((24.0, 50.0)), 24.0, 36.0, pick((math.inf, 3000.0)),
        )  # fmt: skip

    def look(self) -> Look:
        return Look(self.format(), self.random.choice((None, 4000, 6000)))

    def format(self) -> Any:
        return self.random.choice(FORMATS)

    def print(self) -> Print:
        pick = self.random.choice
        width, height = pick(((300.0, 200.0), (400.0, 400.0), (594.0, 420.0)))
        return Print(width, height, pick((250.0, 500.0)), CLASSIC_EYE, pick(("fitted", "filled")))

    def window(self) -> Any:
        from optics.lens.focus_window import Window

        return Window(*self.ends())

    def scene(self) -> Scene:
        pick, kit = self.random.choice, self.kit()
        about = self.random.choice((1000.0, 2000.0, 5000.0))
        marks = tuple(sorted((self.mark(about) for _ in range(pick((0, 1, 2, 3, 3)))),
                             key=lambda mark: mark.depth))  # fmt: skip
        lettered = tuple(
            Mark(mark.depth, mark.uncertainty, mark.wish, mark.softness, f"Thing {letter}", letter,
                 mark.rise, mark.at, mark.speed)
            for mark, letter in zip(marks, "ABC", strict=False)
        )  # fmt: skip
        return Scene(
            kit, pick(kit.apertures), lettered, self.look(), pick(schools.OFFERED).key,
            pick((Choose.FIXED, *tuple(Choose))), pick((None, None, None, 1200.0, 2000.0)),
            pick((None, 2000.0)), pick((None, self.camera())), pick((1.0, 1.5)), pick((0.1, 0.2)),
            pick((2e-5, 1e-4)), pick(("m", "m", "ft")), self.taking(),
        )  # fmt: skip

    def taking(self) -> Taking:
        pick = self.exposing.choice
        return Taking(pick((None, 3.0, 12.0)), pick((100.0, 800.0)), pick((0.0, 0.0, 6.0)),
                      pick((None, None, 1 / 30)), pick((None, None, 200.0)))  # fmt: skip

    def movement(self) -> Movement:
        pick = self.exposing.choice
        speed, seconds, circles = pick((0.0, 20.0, 900.0)), pick((0.01, 0.5)), pick((0.0, 0.6, 1.4))
        return movement(
            self.setup(), 2400.0, speed, seconds, 2000.0, circles, 24.0, pick((None, 0.006))
        )

    def zone(self) -> Zone:
        return zone_at(self.setup(), self.distance())

    def tile(self) -> Tile:
        zone = self.zone()
        return Tile(zone.focus, zone.near, zone.far, zone.near, zone.far)

    def part(self) -> Part:
        if self.random.random() < 0.4:
            return round_part(21.6)
        return frame_part(36.0, 24.0, self.random.choice((0.0, 0.5)), -math.inf)

    def asked(self) -> Asked:
        pick = self.random.choice
        return Asked(pick(("", "A")), pick((1, 3)), 1.0, 2.0, pick((None, 0.5)), pick((None, 1.0)))

    def error(self) -> Any:
        s = self.setup()
        errors = focusing.errors(s.focal_length, s.f_number, magnification(s, 3e3), None)
        return self.random.choice(errors)
