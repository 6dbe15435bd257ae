"""Form → answer → template."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from django.http import QueryDict

from optics.scene.answer import Answer
from optics.scene.answer import answer as answer_of
from optics.scene.schools import OFFERED
from web.hand.asker import Asker
from web.kept.models import Kept
from web.people.models import Owner
from web.planner.axis import Axis, Step
from web.planner.folds import context as folded
from web.planner.pages import Asked, Pages
from web.planner.requests import HtmxHttpRequest, query_before
from web.ui.care import CARE
from web.ui.templatetags import format
from web.ui.wording import told_in
from web.view import folds, pictures, shown, turning
from web.view.choices import APERTURE_CAPTIONS, QUESTIONS, WINDS, Choose, FocusBy, How, Look
from web.view.deeds import deeds, tempered
from web.view.distances import USUAL_ERRORS
from web.view.forms import is_scene, read_scene, scene_query
from web.view.kind import KIND
from web.view.light import mends
from web.view.reading import Reading
from web.view.rows import letter
from web.view.sample import GEAR, MARKS, NAME
from web.view.stepping import stepped
from web.view.trial import tapped, trials_text
from web.view.typed import Row
from web.view.uncounted import left_out


class ViewPages(Pages[Reading]):
    """View, from the link, a plan, or the sample."""

    kind, gear, sample, folds = KIND, GEAR, NAME, folds.ALL

    def is_said(self, data: Mapping[str, Any]) -> bool:
        return is_scene(data)

    def read(self, data: QueryDict, before: Callable[[], QueryDict | None], who: Asker) -> Reading:
        return read_scene(data, before, who)

    def link_of(self, texts: Mapping[str, str]) -> QueryDict:
        """The sample's marks, with what is in hand."""
        said = ((name, told_in(depth, texts["units"]), role) for name, depth, role in MARKS)
        return scene_query(texts, said)

    def turned(
        self, reading: Reading, step: Step, axis: Axis, at: str
    ) -> tuple[Reading, float | None]:
        ring = turning.turned(reading.scene, step, axis)
        return reading.with_ring(ring), ring

    def rewritten(
        self, request: HtmxHttpRequest, reading: Reading, who: Asker
    ) -> tuple[Reading, dict[str, Any]]:
        """The marks renumbered from where the camera now stands, or one of them a step nearer or
        farther, if that is asked for."""
        if "came" in request.GET:
            data = request.GET.copy()
            data["trials"], data["ring"] = _tapped(reading, request.GET), ""
            found = read_scene(data, partial(query_before, request), who)
            return found, {"trials_text": found.texts["trials"]}
        if (row := stepped(reading, request.GET)) is not None:
            data = request.GET.copy()
            distances = data.getlist("mark_distance")
            distances[row.index] = row.distance
            data.setlist("mark_distance", distances)
            found = read_scene(data, partial(query_before, request), who)
            return found, {"stepped": found.rows[row.index]}
        if "renumber" not in request.GET or not reading.all_counted:
            return reading, {}
        renumbered = read_scene(QueryDict(reading.renumbered.query()), who=who)
        more = {"usual_errors": _usual_errors(request.owner), "hows": How.choices}
        return renumbered, {"renumber": True, **more}

    def answered(self, asked: Asked[Reading]) -> dict[str, Any]:
        reading = asked.reading
        answer = answer_of(reading.scene)
        system = reading.system
        return {
            "answer": answer,
            "system": system,
            "sightlines": pictures.sightlines(answer, asked.shown.sizes, asked.axis),
            "folds": folds.RESULTS,
            "folds_of_why": folds.WHY,
            "tools": folds.TOOLS,
            "ring_text": format.reading(answer.ring, system),
            "aperture_text": format.f_number(answer.scene.setup.f_number),
            "aperture_shown": _aperture_shown(answer),
            "aperture_caption": APERTURE_CAPTIONS[answer.scene.choose],
            "sharp_text": format.placed(answer.sharp, system) if answer.sharp else "nowhere",
            "rows": _rows(reading, answer),
            "learnt": reading.learnt,
            "left_out": left_out(reading.rows),
            **_now(answer, reading),
            "tempered": tempered(answer, reading),
            "textbook_hyperfocal": shown.textbook_hyperfocal(answer),
            "textbook_limits": shown.textbook_limits(answer),
            "lens_ahead": shown.lens_ahead(answer),
            "standard_words": shown.standard_words(reading),
            "standard_pixels": shown.standard_pixels(answer),
            **folded(folds.ALL, asked.shown.unfolded, answer, reading),
        }

    def beside(self, kept: Kept | None) -> dict[str, Any]:
        key = None if kept is None else kept.pk
        return {"field_path": self.address("field", key)}

    def around(self, reading: Reading, owner: Owner) -> dict[str, Any]:
        return {
            "screen_name": "View",
            "placeholder": "Name this view",
            "places": OFFERED,
            "place_now": reading.scene.school,
            "usual_errors": _usual_errors(owner),
            "hows": How.choices,
            "questions": QUESTIONS if reading.asks else (),
            "looks": Look.choices,
            "apertures_by": Choose.choices,
            "winds": WINDS,
            "care_kinds": [(f"care_{key}", title) for key, (title, _) in CARE.items()],
            "focusing_by": [("", "not said"), *FocusBy.choices],
        }


def _now(answer: Answer, reading: Reading) -> dict[str, Any]:
    """What a photographer would do next, and the folds that are for it."""
    would_mend, would_stop = deeds(answer, reading), tuple(mends(answer))
    open_now = {
        "fold-rescue": would_mend,
        "fold-light": answer.smeared or answer.unsmeared,
        "fold-trial": reading.trials,
    }
    holds = answer.kept and not answer.failing and not left_out(reading.rows).shown
    return {
        "deeds": would_mend,
        "mends": would_stop,
        "applies": " ".join(fold for fold, why in open_now.items() if why),
        "checks_apply": holds and not reading.trials,
    }


def _tapped(reading: Reading, asked: Mapping[str, str]) -> str:
    """The trial frames after a tap on how a mark came out in one of them."""
    at = asked.get("at_frame", "0")
    frame = int(at) if at.isdecimal() and len(at) < 4 else 0
    letter, now = asked.get("letter", ""), answer_of(reading.scene)
    trials = tapped(reading.trials, frame, letter if letter.isalpha() else "", asked["came"], now)
    return trials_text(trials, reading.system)


def _rows(reading: Reading, answer: Answer) -> list[dict[str, Any]]:
    """Each row as typed, with its verdict if it has one."""
    verdicts = {verdict.mark.letter: verdict for verdict in answer.verdicts}
    rows, asked = reading.rows, {}
    if reading.asks:  # room for what is asked first, and one to wait
        asked = dict(enumerate(QUESTIONS))
        rows += tuple(Row(at, letter(at)) for at in range(len(rows), len(QUESTIONS) + 1))
    return [
        {"row": row, "verdict": verdicts.get(row.letter), "asks": asked.get(row.index)}
        for row in rows
    ]


def _aperture_shown(answer: Answer) -> str:
    """The aperture that was chosen, as its field says it; empty where that is as typed."""
    if answer.scene.choose == Choose.FIXED:
        return ""
    return format.number(answer.scene.setup.f_number)


def _usual_errors(owner: Owner) -> dict[str, str]:
    """How far off a distance usually is by each way of getting it; by eye, their own."""
    errors = USUAL_ERRORS | {How.EYE: owner.judgement_error}
    return {how.value: format.share(error) for how, error in errors.items()}


pages = ViewPages()
