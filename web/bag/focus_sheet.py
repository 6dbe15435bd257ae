"""How a body keeps focus where it was put, in the words of its own buttons: advice and a self-test.

Focus that is not on the shutter button stays where it was put; everything here follows from that.
"""

from __future__ import annotations

from dataclasses import dataclass

from web.bag.models import Body, Start


@dataclass(frozen=True, slots=True)
class Sheet:
    """What to know about a body, and how to find out in two minutes whether it is so."""

    stays_put: bool
    why: tuple[str, ...]
    test: tuple[str, ...]


def sheet(body: Body) -> Sheet:
    """The sheet of a body."""
    rear = body.button or "the button at the back"
    if body.starts_focus == Start.NOTHING:
        stays, why = True, ["Nothing on this body moves the ring but your hand."]
    elif body.shutter_refocuses and body.starts_focus != Start.REAR:
        stays = False
        why = [
            "The shutter button starts autofocus: half a press undoes whatever you had set.",
            f"Put autofocus on {rear} alone in the menu, or switch the lens to manual, "
            "before you set the ring.",
        ]
    elif body.shutter_refocuses:
        stays = False
        why = [
            f"{_capital(rear)} starts autofocus, but the shutter button may still refocus.",
            "Look in the menu for what the half press does, and take autofocus off it.",
        ]
    else:
        stays = True
        why = [
            f"Autofocus is on {rear} and not on the shutter button: focus stays where it was put, "
            "however often you press the shutter.",
        ]
        if body.hold_or_toggle == "hold":
            why.append(f"Hold {rear} while it focuses, and let go: that is the lock.")
        else:
            why.append(f"Press {rear} once to start and once more to stop: that is the lock.")
    if body.focuses_at == "full":
        why.append(
            "It focuses at full aperture, where the eye sees best. A lens that shifts focus as it "
            "is closed is then a little off: test it once at the taking aperture."
        )
    else:
        why.append("It focuses at the taking aperture: what you see sharp is what is sharp.")
    if body.limiter:
        why.append(f"Focus limiter: {body.limiter}. It can keep the lens from where it must go.")
    magnify = body.magnify or "the magnified view"
    release = body.release or "the delay or a release"
    return Sheet(
        stays_put=stays,
        why=tuple(why),
        test=(
            "Put the camera down firmly, two metres from a page of print.",
            f"Focus on the print ({magnify}) and lock it as you would outdoors.",
            f"Hold a hand in front of the lens, take a picture ({release}), take the hand away.",
            f"Look at the print again with {magnify}: still sharp, and nothing has moved. Soft, "
            "and something refocused: look above for what.",
            "Switch off and on, and look once more: some lenses forget their place.",
        ),
    )


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]
