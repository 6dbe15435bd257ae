"""Random scenes as photographers have them, as links to the planners. Seeded: the same each run."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from random import Random

from django.http import QueryDict

from tests.web.walk.formulas import Lens

ENGRAVED = (
    1.4, 1.6, 1.8, 2, 2.2, 2.5, 2.8, 3.2, 3.5, 4, 4.5, 5, 5.6, 6.3, 7.1, 8, 9, 10, 11, 13, 14, 16,
    18, 20, 22, 25, 29, 32, 36, 40,
)  # fmt: skip
"""F-numbers in thirds of a stop."""
FRAMES = {"full-frame": (36.0, 24.0, 6000), "four-thirds": (17.3, 13.0, 5184)}
PLACES = ("between", "hyperfocal", "subject", "third_up", "infinity", "frames", "third_along")


@dataclass(frozen=True)
class Mark:
    """A mark of a scene: mm, and what is wished of it."""

    letter: str
    depth: float
    error: float
    wish: str

    @property
    def ends(self) -> tuple[float, float]:
        """Where it may be, mm."""
        return (self.depth, self.depth) if self.depth == math.inf else (
            self.depth * (1 - self.error), self.depth * (1 + self.error))  # fmt: skip


@dataclass(frozen=True)
class Scene:
    """A scene of View."""

    lens: Lens
    apertures: tuple[float, ...]
    closest: float
    marks: tuple[Mark, ...]
    link: QueryDict
    system: str

    @property
    def must(self) -> list[Mark]:
        """The marks that must be sharp."""
        return [mark for mark in self.marks if mark.wish == "must"]

    def at(self, f_number: float) -> Lens:
        """The lens at another aperture."""
        return replace(self.lens, f_number=f_number)

    def placed(self, place: str) -> QueryDict:
        """Its link with another way of placing focus."""
        link = self.link.copy()
        link["place"], link["ring"], link["choose"] = place, "", "fixed"
        return link


def _lens(random: Random) -> tuple[Lens, dict[str, str], tuple[float, ...], float]:
    focal = random.choice((12, 16, 20, 24, 28, 35, 50, 90, 200, 400, 600))
    frame = random.choice(tuple(FRAMES))
    width, _, pixels = FRAMES[frame]
    circle = random.choice((0.005006, width / pixels, 0.015, 0.02, 0.025, 0.03, 0.03))
    pupil, hiatus = random.choice(((1.0, 0.0), (1.0, 0.0), (0.8, -6.0), (1.4, 9.0)))
    apertures = tuple(n for n in ENGRAVED if random.choice((1.4, 2.8, 4)) <= n)
    low, high = random.choice((1.4, 2.8, 4)), random.choice((16, 22, 22, 40))
    apertures = tuple(n for n in ENGRAVED if low <= n <= high)
    closest = max(focal * random.choice((6.0, 10.0)), 150.0)
    lens = Lens(
        focal, random.choice(apertures), circle, pupil, hiatus, random.choice((False, False, True))
    )
    link = {
        "lens": "",
        "format": frame,
        "pixels_across": str(pixels),
        "focal_length_mm": str(focal),
        "f_number": f"{lens.f_number:g}",
        "circle_mm": f"{circle!r}",
        "diffraction": "1" if lens.diffraction else "",
        "lens_range": f"{apertures[0]:g} {apertures[-1]:g}",
        "lens_closest": f"{closest:.12g}",
        "lens_pupils": f"{pupil} {hiatus}",
        "units": random.choice(("m", "ft")),
    }
    return lens, link, apertures, closest


def _typed(random: Random, lens: Lens, closest: float) -> float:
    """A depth in metres as somebody types it, mm: where depth of field is a question."""
    hyperfocal = lens.focal_length**2 / (lens.f_number * lens.coc)
    low = max(closest * 0.8, 6 * lens.focal_length, hyperfocal / 20)
    depth = low * (4 * hyperfocal / low) ** random.random()
    return 1000 * float(f"{depth / 1000:.{random.choice((2, 2, 3))}g}")


def view(random: Random) -> Scene:
    """One of View."""
    lens, texts, apertures, closest = _lens(random)
    count = random.choice((1, 2, 2, 3, 3, 4))
    marks = []
    middle = _typed(random, lens, closest)
    narrow = random.random() < 0.4  # all of it about as deep
    for at in range(count):
        depth = _typed(random, lens, closest)
        if narrow:
            spread = lens.f_number * lens.coc * middle / lens.focal_length**2
            scale = 1 + random.uniform(-1, 1) * spread
            depth = 1000 * float(f"{middle * scale / 1000:.3g}") if scale > 0.2 else depth
        if at == count - 1 and random.random() < 0.25:
            depth = math.inf
        error = random.choice((0, 0, 0, 0, 0.03, 0.1)) if depth < math.inf else 0
        wish = random.choice(("must",) * 7 + ("nice", "may_go", "fall_soft"))
        marks.append(Mark("ABCD"[at], max(depth, 3.2 * lens.focal_length), error, wish))
    link = QueryDict(mutable=True)
    link.update(texts)
    link["place"] = random.choice(PLACES)
    link["choose"] = random.choice(("fixed", "fixed", "fixed", "widest", "sharpest"))
    link["ring"] = ""
    if random.random() < 0.2:
        link["ring"] = f"{float(f'{_typed(random, lens, closest) / 1000:.4g}'):.10g} m"
    if random.random() < 0.5:
        link["camera_height"], link["tilt_deg"] = "1.5 m", random.choice(("0", "5", "15"))
    else:
        link["camera_height"] = link["tilt_deg"] = ""
    if random.random() < 0.5:
        link["metered_f"], link["metered_time"] = "8", random.choice(("1/30", "1/125", "2", "8"))
        link["nd"] = random.choice(("", "3", "6", "ND1000"))
        link["leaves"], link["dusk"] = random.choice(("", "breeze")), random.choice(("", "1"))
        link["held"] = random.choice(("", "hand"))
    if random.random() < 0.4:
        random.choice("ABC"[:count])  # a trial frame moves marks: test_panels has those
    for mark in marks:
        link.appendlist("mark_name", f"Thing {mark.letter}")
        depth = "inf" if mark.depth == math.inf else f"{mark.depth!r} mm"
        link.appendlist("mark_distance", depth)
        link.appendlist("mark_role", mark.wish)
        link.appendlist("mark_error", f"{100 * mark.error:g} %")
    return Scene(lens, apertures, closest, tuple(marks), link, texts["units"])


@dataclass(frozen=True)
class Street:
    """A street: its lens, and its link."""

    lens: Lens
    apertures: tuple[float, ...]
    closest: float
    link: QueryDict
    system: str

    def at(self, f_number: float) -> Lens:
        """The lens at another aperture."""
        return replace(self.lens, f_number=f_number)


def street(random: Random) -> Street:
    """One of Street."""
    lens, texts, apertures, closest = _lens(random)
    focal = random.choice((21, 28, 35, 50))
    lens = replace(lens, focal_length=focal, f_number=random.choice((4, 5.6, 8, 11, 16)),
                   coc=random.choice((0.008, 0.015, 0.02, 0.025, 0.03)))  # fmt: skip
    apertures = tuple(n for n in ENGRAVED if 2 <= n <= 22)
    closest = random.choice((300.0, 500.0, 700.0))
    texts |= {
        "focal_length_mm": str(focal),
        "f_number": f"{lens.f_number:g}",
        "circle_mm": f"{lens.coc!r}",
        "lens_range": "2 22",
        "lens_closest": f"{closest:g}",
        "like": f"{random.choice((1, 1.4, 2, 2.5, 3, 5))} m",
        "count": str(random.choice((1, 2, 2, 3, 3, 4, 5))),
        "light": random.choice(("", "15", "10", "6")),
    }
    if random.random() < 0.6:
        texts["near"] = f"{random.choice((0.7, 0.8, 1, 1.2, 1.5, 2))} m"
        texts["far"] = random.choice(("inf", "4 m", "5 m", "10 m", "30 m"))
    if random.random() < 0.2:
        texts["locked"] = random.choice(("inf", "1.2 m", "3 m", "0.8 m"))
    link = QueryDict(mutable=True)
    link.update(texts)
    return Street(lens, apertures, closest, link, texts["units"])


@dataclass(frozen=True)
class Night:
    """A night: its lens with the standard of stars and of the ground, and its link."""

    stars: Lens
    ground: Lens
    apertures: tuple[float, ...]
    closest: float
    margin: float
    foreground: float | None
    link: QueryDict
    system: str


def night(random: Random) -> Night:
    """One of Sky."""
    _, texts, _, _ = _lens(random)
    frame = texts["format"]
    width, _, pixels = FRAMES[frame]
    focal = random.choice((12, 14, 16, 20, 24, 35, 50))
    apertures = tuple(n for n in ENGRAVED if 1.4 <= n <= 16)
    f_number = random.choice((1.4, 1.8, 2, 2.8, 4))
    circle = random.choice((0.015, 0.02, 0.025, 0.03))
    star_px = random.choice((1.5, 2, 3))
    pupil, hiatus = (float(part) for part in texts["lens_pupils"].split())
    counted = bool(texts["diffraction"])
    ground = Lens(focal, f_number, circle, pupil, hiatus, counted)
    stars = Lens(focal, f_number, star_px * width / pixels, pupil, hiatus, True)
    fore = None
    if random.random() < 0.75:
        fore = 1000.0 * random.choice((0.8, 1.5, 3, 5, 8, 12, 20))
    margin = random.choice((1.0, 1.5, 2.0))
    texts |= {
        "focal_length_mm": str(focal),
        "f_number": f"{f_number:g}",
        "circle_mm": f"{circle!r}",
        "lens_range": "1.4 16",
        "lens_closest": "250",
        "star_px": f"{star_px:g}",
        "margin": f"{margin:g}",
        "foreground": "" if fore is None else f"{fore / 1000:g} m",
        "dark": random.choice(("", "4", "5")),
        "moon": random.choice(("", "full")),
    }
    link = QueryDict(mutable=True)
    link.update(texts)
    return Night(stars, ground, apertures, 250.0, margin, fore, link, texts["units"])
