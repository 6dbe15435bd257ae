"""What is typed into the folded panels of View: text in, checked values out.

Empty means not said, and then a panel takes what is usual, or keeps silent.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from django.core.exceptions import ValidationError

from optics.base import amounts
from optics.base.errors import NotUnderstood
from optics.lens.aperture import exact
from optics.light.exposure import Exposure, nd_stops_of
from optics.light.taking import Taking
from optics.scene.rescue import Asked
from web.ui.fields import NumberField
from web.ui.wording import sentence_of
from web.view.typed import parse_place

USUAL_OVERLAP = 0.2
USUAL_PAUSE = 2.0
"""Seconds between the frames of a set: to turn the ring, and for the tripod to settle."""
USUAL_BOX = 0.08
"""An autofocus box as a share of the frame's height: a guess to be mended by looking."""

WINDS = {"": None, "still": 0.0, "light": 50.0, "breeze": 200.0, "strong": 600.0}
"""How fast leaves on a twig move, mm/s: a guess of ours, of the right order only."""


@dataclass(frozen=True, slots=True)
class Panels:
    """Values of the folded panels; None where nothing was said. Times s, speeds mm/s."""

    subject: str = ""
    focus_by: str = ""
    box: float = USUAL_BOX
    box_at: tuple[float, float] | None = None
    overlap: float = USUAL_OVERLAP
    bracket: int = 1
    bracket_stops: float = 1.0
    pause: float = USUAL_PAUSE
    keep: str = ""
    metered_f: float | None = None
    metered_time: float | None = None
    metered_iso: float = 100.0
    iso: float | None = None
    time: float | None = None
    nd: float = 0.0
    held: bool = False
    steady: float = 0.0
    leaves: float | None = None
    dusk: bool = False
    care_water: bool = False
    care_edges: bool = False
    care_sun: bool = False
    care_road: bool = False
    care_night: bool = False
    trial_soft: frozenset[str] = field(default_factory=frozenset)
    trial_sharp: frozenset[str] = field(default_factory=frozenset)

    @property
    def metered(self) -> bool:
        """Whether an exposure was metered."""
        return self.metered_f is not None and self.metered_time is not None

    @property
    def taking(self) -> Taking:
        """How a frame is exposed."""
        metered = None
        if self.metered_f is not None and self.metered_time is not None:
            metered = Exposure(exact(self.metered_f), self.metered_time, self.metered_iso).ev100
        return Taking(metered, self.iso or self.metered_iso, self.nd, self.time, self.leaves)

    def asked(self, seconds: float | None, longest: float | None) -> Asked:
        """What a rescue is asked for. ``seconds``, ``longest``: as of ``rescue.Asked``."""
        return Asked(
            keep=self.keep,
            bracket=self.bracket,
            bracket_stops=self.bracket_stops,
            pause=self.pause,
            seconds=seconds,
            longest=longest,
        )


def _number(low: float, high: float, sentence: str) -> Callable[[str], float]:
    field = NumberField(low=low, high=high, sentence=sentence)
    return lambda text: float(field.clean(text))


def _seconds(text: str) -> float:
    return _read(amounts.parse_seconds, text)


def _share(low: float, high: float, sentence: str) -> Callable[[str], float]:
    def read(text: str) -> float:
        share = _read(amounts.parse_share, text)
        if not low <= share <= high:
            raise ValidationError(sentence)
        return share

    return read


def _read(parse: Callable[[str], float], text: str) -> float:
    try:
        return parse(text)
    except NotUnderstood as error:
        raise ValidationError(error.sentence) from error


_ND_SENTENCE = "Write a filter as stops (10) or by its factor (ND1000), up to 20 stops."


def _filter(text: str) -> float:
    cleaned = text.lower().replace(" ", "")
    if cleaned.startswith("nd"):
        factor = _number(1, 2**20, _ND_SENTENCE)(cleaned[2:])
        return nd_stops_of(factor)
    return _number(0, 20, _ND_SENTENCE)(cleaned.removesuffix("stops").removesuffix("stop"))


_BRACKET_SENTENCE = "Write a bracket as 3 (frames a stop apart) or 5 × 2 (two stops apart)."


def _bracket(text: str) -> tuple[int, float]:
    parts = text.lower().replace("x", "×").split("×")
    count = _number(1, 15, _BRACKET_SENTENCE)(parts[0])
    stops = _number(0.1, 5, _BRACKET_SENTENCE)(parts[1]) if len(parts) == 2 else 1.0
    if len(parts) > 2 or count != int(count):
        raise ValidationError(_BRACKET_SENTENCE)
    return int(count), stops


def _letters(text: str) -> frozenset[str]:
    return frozenset(letter for letter in text.upper() if letter.isalpha())


def _wind(text: str) -> float | None:
    return WINDS.get(text)


_ISO = "Give an ISO from 1 to 1 000 000, such as 400."
READERS: dict[str, Callable[[str], Any]] = {
    "subject": lambda text: text[:1].upper(),
    "focus_by": str,
    "box": _share(0.002, 1, "The box fills from 0.2 to 100 % of the frame's height."),
    "box_at": parse_place,
    "overlap": _share(0, 0.9, "Frames overlap by 0 to 90 %."),
    "bracket": _bracket,
    "pause": _seconds,
    "keep": lambda text: text[:1].upper(),
    "metered_f": _number(0.5, 128, "Give the aperture it was metered at, such as 8."),
    "metered_time": _seconds,
    "metered_iso": _number(1, 1e6, _ISO),
    "iso": _number(1, 1e6, _ISO),
    "time": _seconds,
    "nd": _filter,
    "held": lambda text: text == "hand",
    "steady": _number(0, 10, "A stabiliser gives 0 to 10 stops."),
    "leaves": _wind,
    "dusk": bool,
    "care_water": bool,
    "care_edges": bool,
    "care_sun": bool,
    "care_road": bool,
    "care_night": bool,
    "trial_soft": _letters,
    "trial_sharp": _letters,
}
"""How each field of the panels is read, by its name."""


def read_panels(texts: Mapping[str, str], system: str) -> tuple[Panels, dict[str, str]]:
    """The values, and a message for each text that cannot be used, which then counts as empty."""
    values: dict[str, Any] = {}
    errors: dict[str, str] = {}
    for name, read in READERS.items():
        if not texts[name]:
            continue
        try:
            values[name] = read(texts[name])
        except ValidationError as error:
            errors[name] = sentence_of(error, system)
    if "bracket" in values:
        values["bracket"], values["bracket_stops"] = values["bracket"]
    return Panels(**values), errors
