"""Plans, as others than View see them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from optics.lens.meant import Meant
from optics.lens.shot import Shot
from optics.scene.answer import Answer
from optics.scene.answer import answer as answer_of
from web.hand.asker import asker
from web.kept.kinds import Kind, register
from web.view.checks import checks
from web.view.forms import read_scene
from web.view.reading import Reading
from web.view.tolerance import tolerance, touch_of
from web.view.uncounted import LeftOut, left_out


@dataclass(frozen=True, slots=True)
class Planned:
    """A plan and its answer."""

    reading: Reading
    answer: Answer

    @property
    def left_out(self) -> LeftOut:
        """The marks that the answer does not count."""
        return left_out(self.reading.rows)


def _answer(reading: Reading) -> Planned:
    return Planned(reading, answer_of(reading.scene))


def _shots(planned: Planned) -> tuple[Shot, ...]:
    """The frames of the answer, with where a thumb finds each and the time that the light gives."""
    answer, in_use = planned.answer, planned.reading.in_use
    seconds, iso = answer.scene.seconds, answer.scene.taking.iso
    touched = touch_of(answer, in_use)
    several = len(answer.shots) > 1
    return tuple(
        replace(
            shot,
            name=f"Frame {number}" if several else "",
            purpose=_purpose(answer, shot),
            seconds=seconds,
            iso=None if seconds is None else iso,
            touch=touched[number - 1],
        )
        for number, shot in enumerate(answer.shots, start=1)
    )


def _purpose(answer: Answer, shot: Shot) -> str:
    """The letters of the marks that must be sharp and are in this frame."""
    return ", ".join(m.letter for m in answer.scene.must if shot.near <= m.depth <= shot.far)


def _meant(planned: Planned) -> tuple[Meant, ...]:
    """The marks that must be sharp."""
    return tuple(
        Meant(mark.letter, mark.name, mark.depth, mark.uncertainty, at=mark.at)
        for mark in planned.answer.scene.must
    )


def _sets_up(planned: Planned) -> tuple[str, ...]:
    reading, answer = planned.reading, planned.answer
    found = tolerance(answer, reading.in_use, reading.panels.focus_by)
    return checks(answer, reading.in_use, found, reading.panels)


KIND = register(
    Kind(
        key="plan",
        noun="plan",
        plural="plans",
        short="plans",
        app="view",
        asks=asker,
        read=lambda link, who: read_scene(link, who=who),
        answer=_answer,
        shots=_shots,
        drawn="view/small.html",
        at_place="kept_field",
        outdoors=(("Field", "kept_field"),),
        meant=_meant,
        sets_up=_sets_up,
    )
)
