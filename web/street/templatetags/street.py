"""The many small shapes of Street's drawings, written in one step each.

Nothing in them was typed by a user, which is why they can do without escaping.
"""

from __future__ import annotations

from collections.abc import Sequence

from django import template
from django.utils.safestring import SafeString, mark_safe

from drawing.pavement import Pavement
from drawing.tiles import TilesPicture
from web.street.position import Position
from web.ui.templatetags.format import reading

register = template.Library()


def _of(home: bool) -> str:
    return " home" if home else ""


@register.simple_tag
def tile_boxes(line: TilesPicture) -> SafeString:
    """The stretches of a line, as SVG."""
    return mark_safe(
        "".join(
            f'<rect class="tile{_of(tile.home)}" x="{tile.x:g}" y="{line.size.top:g}"'
            f' width="{tile.width:g}" height="{line.tall:g}"/>'
            for tile in line.tiles
        )
    )


@register.simple_tag
def tile_words(line: TilesPicture) -> SafeString:
    """The names of the stretches and what is written under them, where there is room."""
    return mark_safe(
        "".join(
            f'<text class="tile-name" x="{tile.middle:g}" y="{line.name_y:g}">{tile.name}</text>'
            f'<text class="tile-says" x="{tile.middle:g}" y="{line.says_y:g}">{tile.says}</text>'
            for tile in line.tiles
        )
    )


@register.simple_tag
def tile_handles(line: TilesPicture, positions: Sequence[Position], system: str) -> SafeString:
    """The pointers, which can be moved by pointer and by arrow keys."""
    found = []
    for pointer in line.pointers:
        says = reading(positions[pointer.at], system) + (", locked" if pointer.locked else "")
        lock = f'<path class="lock" d="{pointer.lock}"/>' if pointer.lock else ""
        found.append(
            f'<g class="handle{_of(pointer.home)}" id="handle-{line.size.name}-{pointer.at}"'
            f' data-at="{pointer.at}" transform="translate({pointer.x:g} 0)" role="slider"'
            f' tabindex="0" aria-label="{pointer.name}" aria-valuemin="0" aria-valuemax="100"'
            f' aria-valuenow="{pointer.share}" aria-valuetext="{says}"'
            ' aria-orientation="horizontal">'
            f'<rect class="grip" x="{line.grip_x:g}" width="{line.grip:g}"'
            f' height="{line.bottom:g}"/><path class="pointer" d="{pointer.path}"/>{lock}</g>'
        )
    return mark_safe("".join(found))


@register.simple_tag
def pavement_zones(plan: Pavement) -> SafeString:
    """The zones of a plan, as SVG."""
    return mark_safe(
        "".join(
            f'<path class="ground-zone{_of(zone.home)}" d="{zone.path}"/>' for zone in plan.zones
        )
    )


@register.simple_tag
def pavement_walker(plan: Pavement) -> SafeString:
    """The walker's steps with their times, and where to press."""
    steps = "".join(
        f'<circle class="step" cx="{step.x:g}" cy="{step.y:g}" r="3.4"/>'
        f'<text x="{step.x:g}" y="{step.says_y:g}">{step.says}</text>'
        for step in plan.steps
    )
    presses = "".join(
        f'<g class="press" transform="translate({press.x:g} {press.y:g})"><circle r="8.5"/>'
        f'<text y="4">{press.letter}</text></g>'
        for press in plan.presses
    )
    return mark_safe(steps + presses)
