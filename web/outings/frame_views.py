"""One frame: its map of sharpness, where focus fell, and why what is soft is soft."""

from __future__ import annotations

import math
from typing import Any

from django.http import Http404, HttpResponse, HttpResponseBase
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from drawing.fell import fell_line
from drawing.softness_map import softness_map
from optics.base.errors import OpticsError
from web.hand import body_words
from web.outings.confirming import beside, candidates
from web.outings.found import found_of, length_of, pitch_of, placed
from web.outings.models import Frame, State
from web.outings.reasons import About, said_of
from web.outings.sidecars import LONGEST_WORD, MOST_WORDS
from web.outings.taken_out import TakenOut, taken_out
from web.outings.telling import tell_all
from web.people.owners import OwnedRequest, writer
from web.ui.fields import read_length
from web.ui.text import cleaned

_MISSING = "There is no such frame. It may have gone with its outing."
_USUAL_PRINT = 400.0
_LEAST_PRINT, _MOST_PRINT = 50.0, 20_000.0
_RATINGS = ("-1", "0", "1", "2", "3", "4", "5")
_AXIS = (24.0, 576.0)


def of(request: OwnedRequest, key: int) -> tuple[Frame, list[TakenOut]]:
    """A frame of the owner's, or their copy of the sample's, and what was taken out. Raises
    Http404."""
    rows = Frame.objects.select_related("outing", "item", "look").filter(outing__deleted=None)
    frame = rows.filter(pk=key, outing__owner=request.owner).first() if key < 2**63 else None
    if frame is None and key < 2**63:
        sample = Frame.objects.filter(pk=key, outing__owner__is_sample=True).first()
        if sample is not None:
            mine = rows.filter(outing__owner=request.owner, outing__copied_from=sample.outing_id)
            frame = mine.filter(name=sample.name, bytes=sample.bytes).first()
    if frame is None:
        raise Http404(_MISSING)
    return frame, taken_out(request, frame.outing)


@require_safe
def frame(request: OwnedRequest, key: int) -> HttpResponse:
    """One frame."""
    return _page(request, *of(request, key))


def _page(
    request: OwnedRequest, frame: Frame, there: list[TakenOut], status: int = 200, **more: Any
) -> HttpResponse:
    one = next((each for each in there if each.item.pk == frame.item_id), None)
    found = frame.found
    if found is None and one is not None and frame.look is not None:
        found = found_of(frame, one)
    system = request.owner.units if one is None else one.reading.system
    wanted, print_wrong = _print(request, one)
    seen = None if frame.look is None else frame.look.whole
    context = {
        "screen": "outing-frame",
        "frame": frame,
        "outing": frame.outing,
        "there": there,
        "one": one,
        "found": found,
        "system": system,
        "print_text": request.GET.get("print", ""),
        "print_wrong": print_wrong,
        "print_width": wanted,
        "said": [] if found is None else _said(found, frame, one, system, wanted),
        "line": _line(found, system),
        **_compared(request, frame, found),
        "map": _map(frame, one, found, seen),
        "places": [] if one is None else _places(frame, one),
        **_beside(frame),
        **more,
    }
    template = "outings/frame.html"
    if request.headers.get("HX-Request"):
        template = "outings/frame_said.html"
    return render(request, template, context, status=status)


def _compared(request: OwnedRequest, frame: Frame, found: dict[str, Any] | None) -> dict[str, Any]:
    """What else it can be compared with, and what is said of the one that was chosen."""
    others = candidates(frame)
    text = request.GET.get("beside", "")
    chosen = next((one for one in others if str(one.pk) == text), None)
    compared = beside(found, chosen) if found and chosen is not None else None
    return {"others": others, "compared": compared}


def _print(request: OwnedRequest, one: TakenOut | None) -> tuple[float, str]:
    """How wide the print wanted is, mm: as typed, else as the standard in hand says."""
    text = request.GET.get("print", "").strip()
    usual = _USUAL_PRINT
    if one is not None:
        standard = one.reading.in_use.standard
        if standard is not None and getattr(standard, "print_width_mm", None):
            usual = float(standard.print_width_mm)
    if not text:
        return usual, ""
    try:
        width = read_length(text, request.owner.units, request.owner.measures)
    except ValueError as error:
        return usual, str(error)
    except Exception as error:  # a ValidationError has its own way of being read
        return usual, " ".join(getattr(error, "messages", ["Give a width, such as 60 cm."]))
    if not _LEAST_PRINT <= width <= _MOST_PRINT:
        return usual, "A print is 5 cm to 20 m wide."
    return width, ""


def _said(
    found: dict[str, Any], frame: Frame, one: TakenOut | None, system: str, wanted: float
) -> list[Any]:
    body = None if one is None else one.reading.in_use.body
    about = About(system, frame.exposure_s, body_words.released(body), wanted, frame.width)
    marks = [said_of(found, mark, about) for mark in found.get("marks", [])]
    return sorted(marks, key=lambda said: (said.mark["word"] != "soft", said.mark["letter"]))


def _line(found: dict[str, Any] | None, system: str) -> Any:
    """The line of where focus fell."""
    if not found or not found.get("marks"):
        return None
    marks = [(mark["letter"], mark["word"], length_of(mark["depth_mm"])) for mark in found["marks"]]
    fell = found["fell"]
    at = None
    if fell is not None:
        at = tuple(length_of(fell[name]) for name in ("near_mm", "at_mm", "far_mm"))
    try:
        return fell_line(marks, length_of(found["planned_mm"]), at, system, *_AXIS)  # type: ignore[arg-type]
    except (OpticsError, ArithmeticError, ValueError):
        return None


def _map(
    frame: Frame, one: TakenOut | None, found: dict[str, Any] | None, seen: Any
) -> dict[str, Any] | None:
    """The map of sharpness, against the standard in hand; without a plan, against two pixels."""
    if not seen:
        return None
    circle = 2.0
    if one is not None and one.answer is not None:
        circle = one.reading.setup.coc / pitch_of(frame, one)
    made = softness_map(seen["disc"], seen["patch"], max(circle, 1.0))
    name = ""
    if made.spot is not None and one is not None:
        name = _nearest_name(frame, one, made.spot)
    return {
        "drawn": made,
        "box": f"0 0 {seen['size'][0]} {seen['size'][1]}",
        "size": seen["size"],
        "scale": max(seen["size"]) / 3000.0,
        "circle": circle,
        "near": name,
    }


def _nearest_name(frame: Frame, one: TakenOut, spot: tuple[float, float]) -> str:
    """What of the plan stands where it is sharpest; empty for nothing."""
    there = placed(frame, one.meant)
    names = {meant.letter: meant.name or meant.letter for meant in one.meant}
    near = sorted((math.dist(place, spot), letter) for letter, place in there.items())
    return names[near[0][1]] if near and near[0][0] < 0.12 else ""


def _places(frame: Frame, one: TakenOut) -> list[dict[str, Any]]:
    """What can be pointed at, and where it was."""
    there = placed(frame, one.meant)
    return [
        {
            "letter": meant.letter,
            "name": meant.name,
            "x": there[meant.letter][0] if meant.letter in there else None,
            "y": there[meant.letter][1] if meant.letter in there else None,
        }
        for meant in one.meant
        if not meant.star
    ]


def _beside(frame: Frame) -> dict[str, Any]:
    """The frames before and after it."""
    rows = frame.outing.frames.exclude(state=State.BROKEN)
    before = rows.filter(order__lt=frame.order).order_by("-order", "-pk").first()
    after = rows.filter(order__gt=frame.order).order_by("order", "pk").first()
    return {"before": before, "after": after}


@require_safe
def small(request: OwnedRequest, key: int) -> HttpResponseBase:
    """A frame, small."""
    frame, _ = of(request, key)
    if frame.look is None or frame.look.small is None:
        raise Http404(_MISSING)
    response = HttpResponse(bytes(frame.look.small), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=86400"
    return response


@require_POST
def say(request: OwnedRequest, key: int) -> HttpResponse:
    """Say of a frame where a mark stands in it (``letter``, ``x``, ``y``), what it is rated
    (``rating``) and its keywords."""
    of(request, key)
    writer(request)
    frame, there = of(request, key)
    said = request.POST
    if "letter" in said:
        place = _place(said.get("x", ""), said.get("y", ""))
        letter = said["letter"][:4]
        if place is None:
            return _page(request, frame, there, 422, wrong="Point into the picture: 0 to 1.")
        frame.marks = {**frame.marks, letter: place}
        frame.found = None
        frame.settle()
        frame.save(update_fields=["marks", "found", "state"])
        tell_all(frame.outing, there, [frame])
    if "rating" in said:
        text = said["rating"].strip()
        frame.rating = int(text) if text in _RATINGS else None
        words = (cleaned(word).strip()[:LONGEST_WORD] for word in said.get("words", "").split(","))
        frame.keywords = list(dict.fromkeys(word for word in words if word))[:MOST_WORDS]
        frame.save(update_fields=["rating", "keywords"])
    if "again" in said:
        frame.found = None
        frame.settle()
        frame.save(update_fields=["found", "state"])
        tell_all(frame.outing, there, [frame])
    if request.headers.get("HX-Request"):
        return _page(request, frame, there)
    return redirect(reverse("outings:frame", args=[frame.pk]))


def _place(x: str, y: str) -> list[float] | None:
    try:
        place = [float(x), float(y)]
    except ValueError:
        return None
    return place if all(0.0 <= share <= 1.0 for share in place) else None
