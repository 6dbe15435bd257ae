"""What a body calls its buttons: the words of everything that is set up at a place."""

from __future__ import annotations

from web.bag.models import Body, Start


def magnified(body: Body | None) -> str:
    """Where it magnifies."""
    return "the magnified view" if body is None or not body.magnify else body.magnify


def released(body: Body | None) -> str:
    """How it is released without being touched."""
    return "the delay, or a cable" if body is None or not body.release else body.release


def off_the_shutter(body: Body | None) -> str:
    """How focus is kept off its shutter button."""
    if body is None:
        return "Focus off the shutter button, or the lens on manual."
    if body.starts_focus == Start.NOTHING:
        return "Nothing on this body moves the ring but your hand: leave it alone once it is set."
    button = body.button or "the button at the back"
    if body.shutter_refocuses:
        return f"Take focus off the shutter button ({button} alone starts it), or go to manual."
    return f"Focus is on {button}, not on the shutter: lock, and touch it no more."
