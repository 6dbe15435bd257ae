"""Small elements that stand on a page many times over, written in one step each.

Nothing in them was typed by a user: they are numbers, letters and words of our own, which is
why they can do without escaping.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from django import template
from django.utils.safestring import SafeString, mark_safe

from drawing.chart import Tag
from drawing.ring import Tick
from drawing.sightline import Disc, Label
from drawing.viewfinder import Dot, GroundLine
from web.ui.templatetags.format import figures2, micrometres

register = template.Library()


@register.simple_tag
def shape(word: str) -> SafeString:
    """The shape of a verdict: a full disc holds, a half one just does, a ring is soft."""
    return mark_safe(
        '<svg class="shape" width="12" height="12" aria-hidden="true">'
        f'<use href="#shape-{word}"/></svg>'
    )


def _aside(given: Any) -> str:
    """What a mark's wish makes of its verdict, where the verdict alone would mislead."""
    if given.mark.wish == "fall_soft":
        return f"<small>{'as wished' if given.met else 'too sharp'}</small>"
    if given.mark.wish == "falls" and given.shown != "holds":
        return "<small>falls off</small>"
    return ""


_DRAWN = {
    "holds": '<circle cx="6" cy="6" r="5" fill="#0a5b56"/>',
    "just": '<circle cx="6" cy="6" r="4.4" fill="none" stroke="#0a5b56" stroke-width="1.3"/>'
    '<path d="M6 1.6a4.4 4.4 0 0 0 0 8.8z" fill="#0a5b56"/>',
    "soft": '<circle cx="6" cy="6" r="4.4" fill="none" stroke="#875500" stroke-width="1.3"/>',
}


@register.simple_tag
def printed_shape(word: str) -> SafeString:
    """The shape of a verdict, drawn in its place: paper has no page to take it from."""
    return mark_safe(
        f'<svg class="shape" width="10" height="10" viewBox="0 0 12 12">{_DRAWN[word]}</svg>'
    )


@register.simple_tag
def verdict(given: Any) -> SafeString | str:
    """A verdict: its number, its shape and its word. Nothing for a mark that has none.

    ``given``: a Verdict of a planner, or None.
    """
    if given is None:
        return ""
    blur, pixels = given.seen
    amount = micrometres(blur) if pixels is None else f"{figures2(pixels)} px"
    wish = "" if given.mark.must else " optional"
    return mark_safe(
        f'<span class="verdict {given.shown}{wish}"><span class="amount">{amount}</span> '
        f"{shape(given.shown)} <b>{given.said}</b>{_aside(given)}</span>"
    )


_BAR_PX, _BAR_LEAST, _BAR_DECADES = 104.0, 0.1, 5
"""Bars of blur: so long, px, over so many decades of the standard, from a tenth of it on."""


def _bar(blur: float) -> float:
    decades = math.log10(blur / _BAR_LEAST) if blur > _BAR_LEAST else 0.0
    return round(min(decades, _BAR_DECADES) * _BAR_PX / _BAR_DECADES, 1)


@register.simple_tag
def blur_bars(defocus: float, motion: float) -> SafeString:
    """Defocus and motion as two bars on one scale that tells 5 from 5000: a tick for every tenfold,
    and a stroke at the standard."""
    tens = "".join(f"M{_bar(10.0**power)} 16v4" for power in range(1, _BAR_DECADES))
    return mark_safe(
        '<svg class="blur-bars" width="104" height="20" viewBox="0 0 104 20" aria-hidden="true">'
        f'<rect class="of-defocus" y="2" width="{_bar(defocus)}" height="6"/>'
        f'<rect class="of-motion" y="9" width="{_bar(motion)}" height="6"/>'
        f'<path class="axis" d="M{_bar(1.0)} 0v20{tens}"/></svg>'
    )


@register.simple_tag
def tick_labels(labels: Sequence[Label]) -> SafeString:
    """The labels of an axis, as SVG text."""
    return mark_safe("".join(f'<text x="{x:g}">{text}</text>' for x, text in labels))


@register.simple_tag
def chart_tags(tags: Sequence[Tag], anchor: str) -> SafeString:
    """Labels of a chart, as SVG text."""
    return mark_safe(
        "".join(
            f'<text x="{tag.x:g}" y="{tag.y:g}" text-anchor="{anchor}">{tag.text}</text>'
            for tag in tags
        )
    )


@register.simple_tag
def engravings(ticks: Sequence[Tick]) -> SafeString:
    """What is engraved on a ring, as SVG."""
    return mark_safe(
        "".join(
            f'<path class="engraving" d="{tick.path}"/><text x="{tick.x:.1f}" y="{tick.y:.1f}"'
            f' transform="rotate({tick.turn:.1f} {tick.x:.1f} {tick.y:.1f})">{tick.label}</text>'
            for tick in ticks
        )
    )


@register.simple_tag
def ground_lines(lines: Sequence[GroundLine], width: float) -> SafeString:
    """The ground by depth, as SVG."""
    return mark_safe(
        "".join(
            f'<path class="ground" d="M0 {line.y:g}H{width:g}"/><text class="ground-label"'
            f' x="{line.label_x:g}" y="{line.label_y:g}">{line.label}</text>'
            for line in lines
        )
    )


@register.simple_tag
def placed_discs(dots: Sequence[Dot]) -> SafeString:
    """The marks in the finder, which can be moved there by pointer and by arrow keys."""
    return mark_safe(
        "".join(
            f'<g class="disc movable {dot.verdict}" id="dot-{dot.index}" data-for="{dot.index}"'
            f' transform="translate({dot.x:g} {dot.y:g})" tabindex="0" role="button"'
            f' aria-label="Mark {dot.letter} in the frame: arrow keys move it">'
            f'<circle class="grip" r="22"/><circle r="11"/><text y="4.6">{dot.letter}</text></g>'
            for dot in dots
        )
    )


@register.simple_tag
def mark_discs(discs: Sequence[Disc]) -> SafeString:
    """The marks of a sightline, as SVG: letters in discs, drawn by their verdicts."""
    return mark_safe(
        "".join(
            f'<g class="disc {disc.verdict}" transform="translate({disc.x:g} {disc.y:g})">'
            f'<circle r="11"/><text y="4.6">{disc.letter}</text>'
            f'<text class="above" x="15" y="4.6">{disc.above}</text></g>'
            for disc in discs
        )
    )


_KEEP_WIDE = 150.0


@register.simple_tag
def keep_bar(value: float) -> SafeString:
    """A share as a bar, full at all of them."""
    wide = round(_KEEP_WIDE * min(max(value, 0.0), 1.0), 1)
    return mark_safe(
        f'<svg class="keep-bar" viewBox="0 0 {_KEEP_WIDE:g} 12" height="12"'
        f' preserveAspectRatio="none" aria-hidden="true">'
        f'<rect class="whole" width="{_KEEP_WIDE:g}" height="12"/>'
        f'<rect class="kept" width="{wide}" height="12"/></svg>'
    )
