"""The words of the drills for what is looked at closely: blur, star, back from infinity."""

from __future__ import annotations

from drills import back, blur, star
from drills.tasks import Outcome, Task
from web.drills.wording import Words
from web.ui.templatetags import format

_CAUSES = {
    blur.NEAR: "focus too near", blur.FAR: "focus too far", blur.MOTION: "it moved",
    blur.SHAKE: "the camera moved", blur.DIFFRACTION: "diffraction", blur.HAZE: "haze",
    blur.DRIFT: "stars drifted",
}  # fmt: skip
_CURES = {
    blur.NEAR: "focus farther away", blur.FAR: "focus nearer", blur.MOTION: "a shorter time",
    blur.SHAKE: "hold it still: tripod, wind, release", blur.DIFFRACTION: "open the aperture",
    blur.HAZE: "wait for clear air, or go nearer", blur.DRIFT: "expose for less long, or track",
}  # fmt: skip
_TELLS = {
    blur.NEAR: "What stands in front is sharp, the sign is not: the focus fell in front of it.",
    blur.FAR: "The wall behind is sharp, the sign is not: the focus fell behind it.",
    blur.MOTION: "The sign alone is drawn out, all one way; what stands still is as sharp as ever.",
    blur.SHAKE: "Everything is drawn out the same way, near and far alike: the camera moved.",
    blur.DIFFRACTION: "All of it is a little soft, evenly: the aperture is too small.",
    blur.HAZE: "The edges are sharp, the dark is grey: that is air, and no setting mends it.",
    blur.DRIFT: "Every star is a line, all the same way and as long: the sky turned.",
}  # fmt: skip


def cures(task: Task) -> list[str]:
    """What can be answered to what would help."""
    return [_CURES[one] for one in task.facts["cures"]]


def cure_was_wrong(task: Task) -> str:
    """Where the cause was named and what helps was not."""
    return f"But that would not help: {_CURES[task.part]}."


def _says_blur(task: Task, outcome: Outcome, at: int, system: str) -> str:
    name = _CAUSES[task.part]
    return f"Right: {name}." if outcome.right else f"Not {_CAUSES[task.stops[at]]}: {name}."


def _after_blur(task: Task, system: str) -> str:
    return f"{_TELLS[task.part]} What helps: {_CURES[task.part]}."


def _asks_star(task: Task, system: str) -> str:
    if task.part == star.NONE:
        return _SEEN[task.facts["seen"]]
    if task.part == star.SHIFT:
        taken = format.f_number(task.facts["taken"])
        return f"Make the star as small as it gets at {taken}."
    if task.part == star.COLD:
        return "It is colder now, and the ring has not been touched. Make the star small again."
    return "Make the star as small as it gets."


def _hint_star(task: Task, system: str) -> str:
    if task.part == star.SHIFT:
        return "This lens shifts its focus as it closes: look as it is taken."
    if task.part == star.DIM:
        return "A dim star: farther off it is too faint to be seen."
    return "" if task.part == star.NONE else "The ring goes on past infinity."


_SEEN = {
    star.NOTHING: "The view is magnified, and no star is in it. What first?",
    star.NOISE: "The view is nothing but noise. What first?",
    star.LARGE: "Turned to and fro, the star never gets small. What first?",
    star.STOPPED: "The ring has come to its end, and the star is still a disc. What now?",
}
_FIRST = {
    star.NOTHING: "turn slowly about the infinity mark, to the brightest star there is",
    star.NOISE: "magnify less, open the aperture, and cover the screen",
    star.LARGE: "look for dew on the front glass, and take the hands off",
    star.STOPPED: "leave it at its end, and close the aperture",
    "close": "turn to the nearest stop, and come back",
    "autofocus": "let autofocus find one",
    "smaller": "close the aperture, to hold more",
}
_WHY = {
    star.NOTHING: "A star far out of focus is spread so thin that it is not seen: near infinity it "
    "comes back. A planet, or a lamp far off, does too.",
    star.NOISE: "There is too little light for so large a view: less magnified, or through a wider "
    "aperture, the star stands out again.",
    star.LARGE: "What no turn of the ring mends is not focus: dew, a smear, a hand on the tripod, "
    "or thin cloud.",
    star.STOPPED: "In the cold some lenses end short of infinity. A smaller aperture makes the "
    "disc smaller, in proportion.",
}


def _label_star(task: Task, at: int, system: str) -> str:
    if task.part == star.NONE:
        return _FIRST[task.stops[at]]
    steps = at - task.facts["mark"]
    if not steps:
        return "at the ∞ mark"
    turned = format.figures2(abs(steps) * task.facts["turn"])
    return f"{turned}° {'past' if steps > 0 else 'before'} the ∞ mark"


def _says_star(task: Task, outcome: Outcome, at: int, system: str) -> str:
    if task.part == star.NONE:
        return "Right." if outcome.right else f"Not that: {_FIRST[task.facts['seen']]}."
    size, smallest = outcome.facts["size"], task.facts["smallest"]
    here = f"{format.figures2(size)} pixels wide"
    if outcome.right:
        return f"Right: {here}, {format.figures2(smallest)} at its smallest."
    side = "past it" if outcome.off > 0 else "before it"
    return f"{here}, where {format.figures2(smallest)} can be had: you are {side}."


def _after_star(task: Task, system: str) -> str:
    if task.part == star.NONE:
        return _WHY[task.facts["seen"]]
    return f"True infinity is {_label_star(task, task.best, system)}."


def _asks_back(task: Task, system: str) -> str:
    at = format.f_number(task.facts["f_number"])
    return f"{at}: turn back from infinity until the hut just softens, and a touch back."


def _hint_back(task: Task, system: str) -> str:
    return "Magnified so far that it softens here when it would in your print."


def _label_back(task: Task, at: int, system: str) -> str:
    if not at:
        return "at infinity"
    return f"{format.figures2(at * task.facts['turn'])}° back from infinity"


def _says_back(task: Task, outcome: Outcome, at: int, system: str) -> str:
    facts = outcome.facts
    where = format.exactly(facts["focus"], system)
    if facts["blur"] > 1.0:
        return (
            f"Too far back: at {where} infinity is soft, {format.times(facts['blur'])} the circle."
        )
    near = format.exactly(facts["near"], system)
    if outcome.right:
        return f"Right: at {where} infinity holds, and it is sharp from {near}."
    return f"Not far enough: at {where} infinity holds, but it is sharp from {near} only."


def _after_back(task: Task, system: str) -> str:
    over, near = (format.exactly(task.facts[one], system) for one in ("over", "near"))
    return f"The hyperfocal distance is {over}: sharp from {near} to infinity."


WORDS = (
    Words(
        "blur", "Name the blur", "A picture went soft: which is it, and what is to be changed?",
        _CAUSES, lambda task, system: "What made this soft?", _says_blur,
        label=lambda task, at, system: _CAUSES[task.stops[at]], after=_after_blur,
    ),
    Words(
        "star", "Find the star", "A ring that goes past infinity: the smallest star wins.",
        {star.BRIGHT: "a bright star", star.DIM: "a dim one", star.SHIFT: "a lens that shifts",
         star.COLD: "after the cold", star.NONE: "no star, or none that gets small"},
        _asks_star, _says_star, label=_label_star, hint=_hint_star, after=_after_star,
    ),
    Words(
        "back", "Back from infinity", "By eye to the hyperfocal setting, and what it is worth.",
        {back.CLEAR: "in clear air", back.HAZY: "in haze"},
        _asks_back, _says_back, label=_label_back, hint=_hint_back, after=_after_back,
    ),
)  # fmt: skip
