"""The drawings of an answer, from core results to shapes."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from itertools import pairwise

from drawing import pavement, ring_tiles, sightline, tiles
from drawing.arms import arms
from drawing.scale import DistanceScale
from optics.base import settable
from optics.lens.conjugates import magnification
from optics.zones import stretches
from web.planner.axis import Axis
from web.street.position import Position
from web.street.schools import School
from web.street.usecases import Answer
from web.ui.templatetags import format

_PAVEMENT = {"wide": (600.0, 216.0), "narrow": (358.0, 190.0)}
_CLOCK = 176.0


def tile_lines(
    answer: Answer, sizes: Iterable[sightline.Size], axis: Axis | None = None
) -> tuple[tiles.TilesPicture, ...]:
    """The tiles in each of the sizes. ``axis``: keep these ends, as while dragging."""
    if axis is None:
        fitted = sightline.fit(sightline.WIDE, interest(answer))
        axis = Axis(fitted.near, fitted.far)
    setup, focuses = answer.street.setup, answer.focuses
    blur = arms(
        setup,
        DistanceScale(axis.near, axis.far, 0.0, 1.0),
        focuses,
        tiles.BLUR_SHOWN,
        [stretches.handover(setup, one, other) for one, other in pairwise(focuses)],
    )
    placed = [_placed(answer, one) for one in answer.positions]
    gaps = [gap.told for gap in answer.gaps]
    if answer.band.lost:
        gaps.insert(0, settable.Span(answer.band.near, answer.band.from_))
    return tuple(
        tiles.draw(
            size,
            DistanceScale(axis.near, axis.far, size.left, size.right),
            answer.street.system,
            placed=placed,
            arms=blur,
            gaps=gaps,
        )
        for size in sizes
    )


def interest(answer: Answer) -> tuple[float, ...]:
    """The distances a drawing must show, mm."""
    found = [answer.band.near, answer.band.far, *answer.focuses]
    if not answer.nothing:
        found += [d for one in answer.positions for d in (one.tile.near,) if not math.isnan(d)]
    if min(found) == math.inf:
        found.append(40.0 * answer.street.setup.focal_length)
    return tuple(found)


def _placed(answer: Answer, one: Position) -> tiles.Placed:
    says = format.tile(one.used, answer.street.system) if one.used else ""
    return tiles.Placed(one.name, says, one.focus, one.used, one.home, one.locked)


def pavement_plan(answer: Answer, screen: str) -> pavement.Pavement | None:
    """The pavement from above; None where nothing is sharp."""
    used = [(one, one.used) for one in answer.positions if one.used is not None]
    if not used:
        return None
    street = answer.street
    # The lens stands where home puts it; its pupil is at its principal plane.
    image = street.setup.focal_length * (1.0 + magnification(street.setup, answer.home.focus))
    ends = {d for _, span in used for d in (span.near, span.far) if math.isfinite(d)}
    return pavement.draw(
        *_PAVEMENT[screen],
        pavement.View(image, 0.5 * street.frame_width / image),
        [pavement.Strip(one.name, span.near, span.far, one.home) for one, span in used],
        pavement.Walker(
            street.speed,
            street.angle,
            [
                (ring_tiles.letter_of(one.name), one.walk.press_for_middle)
                for one, _ in used
                if one.walk is not None and not one.endless
            ],
        ),
        {d: settable.written(d, street.system) for d in ends},
    )


def tiled_ring(answer: Answer) -> ring_tiles.TiledRing | None:
    """The ring with the positions on it; None for a lens whose ring nobody knows."""
    street, lens = answer.street, answer.street.in_use.lens
    if lens is None or street.in_use.hands is None:
        return None
    return ring_tiles.draw(
        ring_tiles.WHOLE,
        street.in_use.hands.ring,
        max(street.closest, lens.closest_or_assumed.value),
        [ring_tiles.Stretch(one.name, one.focus, one.used, one.home) for one in answer.positions],
        street.system,
        lens.engraved(street.system),
    )


def clock(answer: Answer) -> ring_tiles.Clock | None:
    """The tab on the clock at each position; None without a tab."""
    tabs = [(one.name, one.tab, one.home) for one in answer.positions if one.tab is not None]
    return ring_tiles.clock(_CLOCK, tabs) if tabs else None


_BARS = (300.0, 26.0)


def school_lines(answer: Answer, found: Sequence[School]) -> tuple[tiles.Bars, ...]:
    """A strip for each school, all on the axis of the answer."""
    fitted = sightline.fit(sightline.WIDE, interest(answer))
    scale = DistanceScale(fitted.near, fitted.far, 0.0, _BARS[0])
    return tuple(
        tiles.bars(
            scale,
            _BARS[1],
            [span for span in one.used if span is not None],
            [gap.told for gap in one.gaps],
            [tile.focus for tile in one.tiles],
        )
        for one in found
    )
