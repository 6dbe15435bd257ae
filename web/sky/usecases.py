"""What a user can do on Sky: find where infinity begins, and how long stars stay points."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.lens.aperture import exact
from optics.lens.depth import hyperfocal, total_blur
from optics.light import dial, exposure
from optics.sky import fractions, star_drift, star_field
from optics.sky.rotation import Place
from web.sky.exposed import Exposed, FilmTime, exposed, film_seconds, film_time
from web.sky.kinds import TRACKED_ISO, USUAL_OFF_POLE
from web.sky.ring import AtInfinity, at_margin, by_hand, computed
from web.sky.skies import MIDDLE, PARTS, Counts, Sky

MARGINS = (1.0, 1.25, 1.5, 2.0, 3.0)
RULES = (200.0, 300.0, 400.0, 500.0)
"""Numbers of rules *number ÷ focal length*."""


@dataclass(frozen=True, slots=True)
class Streak:
    """What a star does at a place in the picture in the time looked at, mm: how long its streak is,
    and the longest time, s, that keeps it within what is allowed (inf for ever). ``start``: where
    in the picture it begins."""

    letter: str
    name: str
    length: float
    longest: float
    start: Place


@dataclass(frozen=True, slots=True)
class PartDrift:
    """How far stars in a part of the frame go at most in the time looked at, mm, and the longest
    time, s, that keeps them within what is allowed. ``wanted``: whether it is what counts."""

    part: Counts
    length: float
    longest: float
    wanted: bool

    @property
    def name(self) -> str:
        """As people say it."""
        return PARTS[self.part]


@dataclass(frozen=True, slots=True)
class Rule:
    """What a rule *number ÷ focal length* allows, s, and how far the worst star drifts then, mm."""

    number: float
    seconds: float
    drift: float


@dataclass(frozen=True, slots=True)
class Longer:
    """A longer time, s, and how far stars of what counts drift in it, mm."""

    seconds: float
    drift: float


@dataclass(frozen=True, slots=True)
class OnMount:
    """The time, s, that a mount that follows would give, and what is set then."""

    seconds: float
    exposed: Exposed


@dataclass(frozen=True, slots=True)
class Answer:
    """Where the ring goes, and for how long.

    ``here``      the setting in hand; ``computed``: the one without a hand; ``margins``: what other
                  margins ask for.
    ``begins``    the nearest setting at which stars hold, mm; inf if none does.
    ``smallest``  how wide a star is at best, the ring at infinity: diffraction alone, mm.
    ``seconds``   looked at: the time asked for, else the longest on the dial for what counts.
    ``parts``     what stars do in the middle, in four fifths of the frame, in every corner.
    ``share``     of the frame, 0 to 1, that stays within what is allowed in that time.
    ``centre``, ``corner``, ``calmest``  what stars do there. ``rules``: what fixed numbers allow.
    ``number``    what the number of such a rule would have to be here.
    ``exposed``   what the body is set to for the night chosen.
    """

    sky: Sky
    here: AtInfinity
    computed: AtInfinity
    margins: tuple[AtInfinity, ...]
    begins: float
    smallest: float
    seconds: float
    parts: tuple[PartDrift, ...]
    share: float
    centre: Streak
    corner: Streak
    calmest: Streak
    rules: tuple[Rule, ...]
    number: float
    exposed: Exposed

    @property
    def iso(self) -> float:
        """The one to set."""
        return self.exposed.iso

    @property
    def streaks(self) -> tuple[Streak, ...]:
        """In the order they are shown."""
        return (self.centre, self.corner, self.calmest)

    @property
    def by_hand(self) -> bool:
        """Whether a hand has set the ring."""
        return self.sky.ring is not None

    @property
    def for_ground(self) -> bool:
        """Whether the ring stands nearer than the margin asks, so that the ground is sharp too."""
        return self.here.window is not None

    @property
    def star_holds(self) -> bool:
        """Whether a star is as small as the standard with the ring where it is."""
        return self.here.star <= self.sky.setup.coc * (1 + 1e-9)

    @property
    def margin_met(self) -> bool:
        """Whether a star is smaller than the standard by the margin asked for."""
        return self.here.star * self.sky.margin <= self.sky.setup.coc * (1 + 1e-9)

    @property
    def holds(self) -> bool:
        """Whether stars can be as small as the standard at all."""
        return math.isfinite(self.begins)

    @property
    def counted(self) -> PartDrift:
        """What stars do in the part of the frame that counts."""
        return next(one for one in self.parts if one.wanted)

    @property
    def still(self) -> bool:
        """Whether no star of the part that counts drifts too far in the time looked at."""
        return self.counted.length <= self.sky.trail * (1 + 1e-9)

    @property
    def in_one(self) -> bool:
        """Whether the body has the ISO that one frame would take, if grainier than is liked."""
        body = self.sky.in_use.body
        highest = None if body is None else body.iso_highest
        return highest is not None and self.exposed.needed <= highest

    @property
    def longer(self) -> Longer | None:
        """The time at which one frame would do at the ISO that is used, and what it smears; None
        where one does now, or that is too long."""
        if self.exposed.enough or self.exposed.too_dark:
            return None
        seconds = dial.longest_named(self.seconds * 2.0**self.exposed.stops)
        if seconds > FOR_EVER:
            return None
        return Longer(seconds, self.sky.drift(seconds, self.sky.counts))

    @property
    def at_most(self) -> bool:
        """Whether stars alone say how long: no longer time keeps them points."""
        longest = dial.longest_named(min(self.counted.longest, FOR_EVER))
        return self.sky.seconds is None and self.seconds == longest

    @property
    def on_mount(self) -> OnMount | None:
        """What a mount that follows would do, where a tripod falls short of the night."""
        sky = self.sky
        if sky.tracked or sky.film or self.exposed.enough:
            return None
        there = replace(sky, off_pole=USUAL_OFF_POLE, seconds=None)
        trail = there.longest(sky.setup.focal_length, sky.trail, sky.counts)
        seconds = _usual_seconds(there, trail)
        return OnMount(seconds, exposed(there, sky.setup.f_number, seconds))

    @property
    def film(self) -> FilmTime | None:
        """What film takes; None for a sensor."""
        return film_time(self.sky) if self.sky.film else None

    @property
    def ground_drift(self) -> float:
        """How far a mount that follows draws out what stands still, mm; 0 on a tripod."""
        return self.sky.ground_drift(self.seconds)

    @property
    def longer_rule(self) -> Rule | None:
        """The rule that most know, where it allows more than the time looked at."""
        known = self.rules[-1]
        return known if known.seconds > self.seconds else None

    @property
    def fleeting(self) -> bool:
        """Whether the longest exposure is so short that stars need a mount that follows them."""
        return self.counted.longest < _FLEETING


_FLEETING = 0.1
FOR_EVER = 3600.0


def _usual_seconds(sky: Sky, longest: float) -> float:
    """The time to open with: as long as stars stay points; no longer than an aurora keeps its
    shape, or than is of use on a mount; on film, as long as the night asks for."""
    ev, n = sky.night.ev100, sky.setup.f_number
    if sky.film:
        return dial.named_time(min(film_seconds(sky, ev, n), FOR_EVER))
    most = min(longest, FOR_EVER)
    if sky.aurora is not None:
        most = min(most, sky.aurora.longest)
    if sky.tracked:
        most = min(most, exposure.seconds_for(ev, exact(n), min(TRACKED_ISO, sky.iso_usable)))
    return dial.longest_named(most)


def answer(sky: Sky) -> Answer:
    """Find infinity with its margin, and the time before stars trail."""
    f = sky.setup.focal_length
    wanted = sorted({*MARGINS, sky.margin})
    placed = computed(sky)
    margins = tuple(
        replace(
            at_margin(sky, margin),
            now=sky.ring is None and placed.window is None and margin == sky.margin,
        )
        for margin in wanted
    )
    part, turned_at = sky.part, sky.turned_at
    longest = {each: sky.longest(f, sky.trail, each) for each in Counts}
    seconds = sky.seconds or _usual_seconds(sky, longest[sky.counts])
    turns = sky.turns(seconds)
    worst = star_field.farthest(f, turns, sky.turned_for(f, Counts.CORNERS), part)
    calmest = star_field.calmest(f, turns, turned_at, part)

    def streak(letter: str, name: str, star: star_field.Drifting) -> Streak:
        lasts = star_field.longest_of(f, sky.trail, turned_at, star.start, sky.projection)
        return Streak(letter, name, star.drift, lasts / sky.pace, star.start)

    lengths = {
        Counts.MIDDLE: sky.drift(seconds, Counts.MIDDLE),
        Counts.MOST: sky.drift(seconds, Counts.MOST),
        Counts.CORNERS: worst.drift,
    }
    middle = star_field.Drifting(lengths[Counts.MIDDLE], MIDDLE)
    return Answer(
        sky=sky,
        here=placed if sky.ring is None else by_hand(sky),
        computed=placed,
        margins=margins,
        begins=hyperfocal(sky.setup),
        smallest=total_blur(sky.setup, math.inf, math.inf),
        seconds=seconds,
        parts=tuple(
            PartDrift(each, lengths[each], longest[each], each is sky.counts) for each in Counts
        ),
        share=fractions.share_within(f, turns, turned_at, sky.frame, sky.trail),
        centre=streak("a", "in the middle", middle),
        corner=Streak(
            "b", "at the worst corner", worst.drift, longest[Counts.CORNERS], worst.start
        ),
        calmest=streak("c", "where it is least", calmest),
        rules=tuple(_rule(sky, number) for number in RULES),
        number=star_drift.rule_number(f, min(longest[sky.counts], FOR_EVER)),
        exposed=exposed(sky, sky.setup.f_number, seconds),
    )


def _rule(sky: Sky, number: float) -> Rule:
    f = sky.setup.focal_length
    seconds = dial.longest_named(star_drift.seconds_of_rule(number, f))
    return Rule(number, seconds, sky.drift(seconds, Counts.CORNERS))
