"""The folded parts of View: what each is called, drawn with, and works out when it is wanted."""

from __future__ import annotations

from typing import Any

from drawing import chart as chart_drawing
from drawing import ring as ring_drawing
from optics.scene import choosing
from optics.scene.after_trial import Trial
from optics.scene.answer import Answer
from optics.scene.rescue import rescue
from web.planner.folds import Fold, nothing
from web.view import checks, pictures, shown, standin, trial
from web.view import light as light_of
from web.view.deeds import asked_of
from web.view.reading import Reading
from web.view.tolerance import OnRing, tolerance
from web.view.ways import ways

type_context = dict[str, Any]


def _ways(answer: Answer, reading: Reading) -> type_context:
    return {"ways": ways(answer.scene)}


def _frame(answer: Answer, reading: Reading) -> type_context:
    stand_in = standin.stand_in(answer, reading.panels)
    return {"finder": pictures.finder(answer, stand_in.box), "stand_in": stand_in}


def _lens(answer: Answer, reading: Reading) -> type_context:
    found = tolerance(answer, reading.in_use, reading.panels.focus_by)
    return {
        "tolerance": found,
        "stand_in": standin.stand_in(answer, reading.panels),
        "ring_picture": None if found.on_ring is None else _ring(answer, found.on_ring),
        "dial": None if found.on_ring is None else _dial(answer, found.on_ring),
    }


def _ring(answer: Answer, on_ring: OnRing) -> ring_drawing.RingPicture | None:
    if not on_ring.lens.has_scale:
        return None
    window = answer.given_window
    return ring_drawing.turned_to(
        ring_drawing.ON_THE_LENS,
        on_ring.ring,
        on_ring.closest,
        answer.ring.focus,
        (window.nearest, window.farthest) if window else None,
        answer.scene.system,
        on_ring.lens.engraved(answer.scene.system),
    )


_DIAL = 132.0


def _dial(answer: Answer, on_ring: OnRing) -> ring_drawing.Dial | None:
    if on_ring.lens.tab_at_infinity_hours is None:
        return None
    hands, window = on_ring.lens.hands, answer.given_window
    return ring_drawing.dial(
        _DIAL,
        hands.tab(answer.ring.focus),
        (hands.tab(window.nearest), hands.tab(window.farthest)) if window else None,
    )


_CHART = (430.0, 210.0)


def _aperture(answer: Answer, reading: Reading) -> type_context:
    found = choosing.chart(answer.scene)
    marked = [("W", found.widest), ("S", found.sharpest)]
    return {
        "chart": found,
        "counted": answer.scene.setup.diffraction,
        "unsure": any(mark.uncertainty for mark in answer.scene.must),
        "chart_picture": chart_drawing.draw(
            *_CHART,
            [_point(one) for one in found.tried],
            _point(found.now),
            [(letter, _point(one)) for letter, one in marked if one is not None],
            [one.f_number for one in found.tried],
        ),
    }


def _point(one: choosing.TriedAperture) -> chart_drawing.Point:
    return chart_drawing.Point(one.f_number, one.worst, one.defocus, one.waves)


def _working(answer: Answer, reading: Reading) -> type_context:
    return {
        "example_depth": shown.example_depth(answer),
        "example_along": shown.example_along(answer),
    }


RESULTS = (
    Fold("fold-ways", "All ways compared", "view/ways.html", _ways),
    Fold("fold-frame", "In the frame", "view/in_frame.html", _frame),
    Fold("fold-lens", "On the lens, and how far it may be off", "view/on_lens.html", _lens),
    Fold("fold-aperture", "Which aperture", "view/aperture.html", _aperture),
)
"""Below the answer, drawn again with it."""

WHY = (
    Fold("fold-working", "The working", "view/working.html", _working),
    Fold("fold-table", "The same as a table", "view/table.html", nothing),
)
"""Under Why."""


def _rescue(answer: Answer, reading: Reading) -> type_context:
    return {"rescue": rescue(answer, asked_of(answer, reading))}


def _light(answer: Answer, reading: Reading) -> type_context:
    return {"lit": light_of.light(answer, reading.panels)}


def _trial(answer: Answer, reading: Reading) -> type_context:
    trials, in_use = reading.trials, reading.in_use
    turn = trial.Turn()
    if trials:
        turn = trial.turn_from(trials[-1], answer, in_use, reading.panels.focus_by)
    now = Trial(answer.ring.focus, answer.scene.setup.f_number)
    return {
        "turn": turn,
        "trials": trials or (now,),
        "taken": len(trials),
        "more": 0 < len(trials) < trial.MOST_FRAMES and trials[-1].looked_at,
        "learnt": reading.learnt,
        "lens_in_hand": in_use.lens if in_use.ring_is_known else None,
    }


def _checks(answer: Answer, reading: Reading) -> type_context:
    found = tolerance(answer, reading.in_use, reading.panels.focus_by)
    return {
        "checks": checks.checks(answer, reading.in_use, found, reading.panels),
        "care": checks.care(reading.panels),
    }


TOOLS = (
    Fold("fold-rescue", "If it will not hold", "view/rescue.html", _rescue, "view/rescue_in.html"),
    Fold("fold-light", "Light and movement", "view/light.html", _light, "view/light_in.html"),
    Fold("fold-checks", "At the place", "view/checks.html", _checks, "view/checks_in.html"),
    Fold("fold-trial", "After a trial frame", "view/trial.html", _trial, "view/trial_in.html"),
)
"""Below the marks, in the order of the work at the place, with fields of their own: only what they
say is drawn again."""

ALL = (*RESULTS, *WHY, *TOOLS)
