"""What a user can do on Street: get ring positions for a band. Core values in, results out."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base import settable
from optics.lens.depth import focus_window, image_scale, limits
from optics.lens.diffraction import disc
from optics.lens.focus_window import Window
from optics.light import motion
from optics.zones import joints, people, stretches
from web.hand.touch import touches
from web.street.placing import (
    Band,
    Gap,
    band_of,
    choose,
    gaps_of,
    home_of,
    left_open,
    needed,
    shares_of,
    widest_complete,
)
from web.street.position import Position
from web.street.streets import Street


@dataclass(frozen=True, slots=True)
class Steps:
    """Back for the nearest of a band, and towards the farthest, mm; 0 for none, inf for one that
    has no end."""

    back: float
    on: float


@dataclass(frozen=True, slots=True)
class Closing:
    """An aperture, and what diffraction alone does there, in circles."""

    f_number: float
    softens: float


@dataclass(frozen=True, slots=True)
class Answer:
    """The positions, nearest first.

    ``complete``  whether they leave no gap; ``needed``: how many that takes, None for no number.
    ``widest``    the widest aperture of this lens at which so many leave none; None for none.
    ``home_for_no_gap``  where home would have to be for so many to leave none, mm; None where it
                  need not move, or that does not help.
    ``held``      whether hands can set them at all.
    ``still_across``, ``still_coming``  the longest time that keeps a walker at the near edge
                  within the standard: walking across, and coming on at the edge of the frame.
    """

    street: Street
    band: Band
    positions: tuple[Position, ...]
    gaps: tuple[Gap, ...]
    complete: bool
    held: bool
    needed: int | None
    widest: float | None
    fixed: tuple[float, ...]
    home_for_no_gap: float | None
    still_across: float
    still_coming: float

    @property
    def home(self) -> Position:
        """The one to return to."""
        return next(one for one in self.positions if one.home)

    @property
    def focuses(self) -> tuple[float, ...]:
        """Where the ring goes, mm, nearest first."""
        return tuple(one.focus for one in self.positions)

    @property
    def engraved(self) -> bool:
        """Whether all stand on what is engraved, or on what a thumb finds."""
        return set(self.focuses) <= set(self.street.engraved.tolist())

    @property
    def pupil(self) -> float:
        """f ÷ N, mm."""
        return self.street.setup.focal_length / self.street.setup.f_number

    @property
    def nothing(self) -> bool:
        """Whether nothing holds at this aperture at all."""
        return all(math.isnan(one.tile.near) for one in self.positions)

    @property
    def closing(self) -> Closing | None:
        """The widest aperture that closes all gaps, the ring as it is; None for none."""
        at = [gap.closed_at for gap in self.gaps]
        if not at or None in at:
            return None
        f_number = max(n for n in at if n is not None)
        return Closing(f_number, disc(f_number) / self.street.setup.coc)

    @property
    def alone(self) -> bool:
        """Whether there is one position, and feet do the rest."""
        return self.street.count == 1

    @property
    def steps(self) -> Steps:
        """How far to step for what stands in the band beside what home holds, as it is written."""
        span, band = self.home.held, self.band
        if span is None or span.reach:
            return Steps(0.0, 0.0)
        far = band.far - span.far if math.isfinite(band.far) else math.inf
        return Steps(max(span.near - band.from_, 0.0), max(far, 0.0))

    @property
    def not_liked(self) -> bool:
        """Whether home cannot be where it is liked: all are locked, or the band is elsewhere."""
        return self.street.home is None and self.home.focus != self.street.liked

    @property
    def liked_outside(self) -> bool:
        """Whether that is because the band is elsewhere."""
        return not self.band.from_ <= self.street.liked <= self.band.far

    @property
    def thickness(self) -> float:
        """How deep home holds, as it is written, mm; 0 where nothing."""
        span = self.home.held
        return 0.0 if span is None else 2.0 * span.reach or span.far - span.near

    @property
    def off_by(self) -> float:
        """How far off home's distance is judged, mm."""
        return self.home.focus * self.street.judging

    @property
    def too_thin(self) -> bool:
        """Whether home holds less than distances are judged off by: zone focusing is no use."""
        tile = self.home.tile
        if math.isnan(tile.near) or math.isinf(tile.far):
            return False
        return math.log(tile.far / tile.near) < max(self.street.judging, _THINNEST)

    @property
    def share(self) -> float:
        """Of all people, those kept."""
        return sum(one.share for one in self.positions)

    @property
    def sharp(self) -> settable.Span | None:
        """The whole that is held without a gap, to be written; None where there is a gap."""
        if not self.complete:
            return None
        used = [one.used for one in self.positions if one.used is not None]
        return settable.Span(used[0].near, used[-1].far, used[0].reach if len(used) == 1 else 0.0)


_THINNEST = 0.05
"""ln far ÷ near: nobody turns a ring to better than that without looking."""


def answer(street: Street) -> Answer:
    """Find the positions, name them, and say what each is good for."""
    band = band_of(street)
    chosen = choose(street, band, street.count)
    tiles = stretches.tiles(street.setup, chosen.focuses, band.from_, band.far)
    shares = shares_of(street, chosen.focuses)
    home = home_of(street, chosen.focuses)
    complete = chosen.complete
    if street.set_for is not None:
        complete = not left_open(street, chosen.focuses, band)
    told = joints.written(tiles, street.system)
    windows = tuple(_window(street, said.used) for said in told)
    touched = touches(street.in_use, zip(chosen.focuses, windows, strict=True), street.system)
    open_ = () if complete else gaps_of(street, tiles, told, band)
    return Answer(
        street=street,
        band=band,
        positions=tuple(
            Position(
                name=name,
                focus=tile.focus,
                f_number=street.f_number,
                near=tile.near,
                far=tile.far,
                tile=tile,
                touch=touch,
                used=said.used,
                window=window,
                held=said.held,
                tab=_tab(street, tile.focus),
                home=tile.focus == home,
                locked=tile.focus in street.locked or tile.focus == street.home,
                frames=_frames(street, tile, said.used),
                share=share,
                walk=_walk(street, tile),
            )
            for name, tile, share, said, window, touch in zip(
                _names(chosen.focuses, home), tiles, shares, told, windows, touched, strict=True
            )
        ),
        gaps=open_,
        complete=complete,
        held=chosen.held,
        needed=needed(street, band, chosen.fixed),
        widest=widest_complete(street, band, len(chosen.focuses), chosen.fixed),
        fixed=chosen.fixed,
        home_for_no_gap=None if complete else _home_for_no_gap(street, band, len(chosen.focuses)),
        still_across=_still_across(street, band, chosen.focuses),
        still_coming=_still_coming(street, band, chosen.focuses),
    )


def _home_for_no_gap(street: Street, band: Band, count: int) -> float | None:
    if street.home is not None or street.set_for is not None or count < street.count:
        return None
    free = choose(street, band, street.count, home_free=True)
    if not free.complete:
        return None
    moved = replace(street, like=home_of(street, free.focuses))
    again = band_of(moved)
    same = (again.near, again.far) == (band.near, band.far)
    if not same or moved.like == street.like or not math.isfinite(moved.like):
        return None
    return moved.like if choose(moved, again, street.count).complete else None


def _window(street: Street, used: settable.Span | None) -> Window | None:
    """Where the ring may stand for a stretch as it is written."""
    return None if used is None else focus_window(street.setup, used.near, used.far)


def _names(focuses: tuple[float, ...], home: float) -> list[str]:
    at = focuses.index(home)
    nearer, farther = at, len(focuses) - at - 1
    return [
        *(_numbered("Close", nearer - k, nearer) for k in range(nearer)),
        "Home",
        *(_numbered("Far", k + 1, farther) for k in range(farther)),
    ]


def _numbered(name: str, number: int, of: int) -> str:
    return name if of == 1 else f"{name} {number}"


def _tab(street: Street, focus: float) -> float | None:
    lens, hands = street.in_use.lens, street.in_use.hands
    if lens is None or hands is None or lens.tab_at_infinity_hours is None:
        return None
    return hands.tab(focus)


def _frames(
    street: Street, tile: stretches.Tile, used: settable.Span | None
) -> tuple[str, str] | None:
    if used is None:
        return None
    near, far = (height_seen(street, end, tile.focus) for end in (used.near, used.far))
    return str(people.framing(near)), str(people.framing(far))


def height_seen(street: Street, depth: float, focus: float) -> float:
    """How much height the frame takes in at a depth, mm; inf at infinity."""
    scale = image_scale(street.setup, depth, focus)
    return street.frame_height / scale if scale > 0 else math.inf


def _walk(street: Street, tile: stretches.Tile) -> people.Walk | None:
    if math.isnan(tile.near):
        return None
    return people.walk_through(tile.zone, street.speed * math.cos(street.angle), street.lag)


def at_near_edge(street: Street, band: Band, focuses: tuple[float, ...]) -> tuple[float, float]:
    """The near edge that is held, and the position that holds it, mm."""
    edge = max(band.from_, limits(street.setup, focuses[0]).near)
    return (band.from_ if math.isnan(edge) else edge), focuses[0]


def _still_across(street: Street, band: Band, focuses: tuple[float, ...]) -> float:
    edge, focus = at_near_edge(street, band, focuses)
    per_second = motion.per_second(street.setup, edge, street.speed, focus)
    return motion.longest_still(per_second, street.setup.coc)


def _still_coming(street: Street, band: Band, focuses: tuple[float, ...]) -> float:
    edge, focus = at_near_edge(street, band, focuses)
    height = 0.5 * max(street.format.width, street.format.height)
    return motion.longest_approaching(street.setup, edge, street.speed, height, focus)
