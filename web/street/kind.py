"""Sets of positions, as others than Street see them."""

from __future__ import annotations

from dataclasses import replace

from optics.lens.shot import Shot
from web.hand import body_words
from web.hand.asker import asker
from web.kept.kinds import Kind, register
from web.street.exposing import lit_here
from web.street.forms import read_street
from web.street.reading import Reading
from web.street.usecases import Answer, answer


def _answer(reading: Reading) -> Answer:
    return answer(reading.street)


def _shots(answered: Answer) -> tuple[Shot, ...]:
    """The positions, with the time and ISO that the light allows."""
    lit = lit_here(answered)
    return tuple(replace(one, seconds=lit.seconds, iso=lit.iso) for one in answered.positions)


def _sets_up(answered: Answer) -> tuple[str, ...]:
    body = answered.street.in_use.body
    return (
        body_words.off_the_shutter(body),
        "Set the home position and find it with your eyes shut, three times.",
        "Count the distances you work at: a pace, an arm, a doorway.",
        "Check the aperture and the ring whenever the camera comes out of the bag.",
    )


KIND = register(
    Kind(
        key="set",
        noun="set",
        plural="sets of positions",
        short="sets",
        app="street",
        asks=asker,
        read=lambda link, who: read_street(link, who=who),
        answer=_answer,
        shots=_shots,
        drawn="street/small.html",
        outdoors=(("Practice", "drills:set"),),
        sets_up=_sets_up,
    )
)
