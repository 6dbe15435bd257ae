"""The sensor that a planner's texts describe: a format, and pixels in any way people say them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

from optics.base.formats import by_key
from web.bag.bodies import MEGAPIXELS
from web.bag.models import Body
from web.bag.standards import Sensor


def sensor_of(texts: Mapping[str, str]) -> Sensor:
    """The sensor of a body, as far as a planner's texts describe it."""
    frame = by_key(texts["format"]) or by_key("full-frame")
    assert frame is not None
    pixels = pixels_text(texts)
    known = pixels.isdecimal() and int(pixels[:9]) > 0
    return Sensor(frame, int(pixels) if known else None)


def is_body(body: Body, texts: Mapping[str, str]) -> bool:
    """Whether a body is the one that a planner's texts describe."""
    pixels = "" if body.pixels_across is None else str(body.pixels_across)
    return (body.frame.key, pixels) == (texts["format"], pixels_text(texts))


def body_of(
    bodies: Iterable[Body], texts: Mapping[str, str], chosen: Callable[[], int | None]
) -> Body | None:
    """The body that a planner's texts describe; of several alike the one that was ``chosen`` (its
    key), else the first."""
    alike = [body for body in bodies if is_body(body, texts)]
    if len(alike) < 2:
        return next(iter(alike), None)
    key = chosen()
    return next((body for body in alike if body.pk == key), alike[0])


def pixels_text(texts: Mapping[str, str]) -> str:
    """The pixels across that a planner's texts say; worked out of megapixels and the format where
    they say those."""
    text = texts["pixels_across"]
    found = MEGAPIXELS.fullmatch(text.lower())
    frame = by_key(texts["format"]) if found else None
    if found is None or frame is None:
        return text
    return str(frame.pixels_across(float(found[1].replace(",", "."))))
