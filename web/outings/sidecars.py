"""Ratings and keywords of frames as XMP sidecars, in and out [xmp]."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterable
from dataclasses import dataclass
from xml.etree.ElementTree import Element

from defusedxml import ElementTree  # type: ignore[import-untyped]
from defusedxml.common import DefusedXmlException  # type: ignore[import-untyped]
from django.template.loader import render_to_string

from web.outings.models import Frame, Outing
from web.ui.text import cleaned

MOST_BYTES = 1_000_000
MOST_WORDS, LONGEST_WORD = 60, 60
_RDF = "{http://www.w3.org/1999/02/22-rdf-syntax-ns#}"
_XMP = "{http://ns.adobe.com/xap/1.0/}"
_DC = "{http://purl.org/dc/elements/1.1/}"


@dataclass(frozen=True, slots=True)
class Sidecar:
    """What a sidecar says: a rating, −1 to 5, None for none; and keywords."""

    rating: int | None
    keywords: tuple[str, ...]


class NoSidecar(Exception):
    """It cannot be read as one. ``sentence``: what to do."""

    sentence = "This is no sidecar that can be read: an .xmp file with ratings and keywords."


def read(raw: bytes) -> Sidecar:
    """A sidecar's bytes. Raises NoSidecar."""
    if len(raw) > MOST_BYTES:
        raise NoSidecar
    try:
        root = ElementTree.fromstring(raw, forbid_dtd=True)
    except (ElementTree.ParseError, DefusedXmlException, ValueError, LookupError) as error:
        raise NoSidecar from error
    rating, keywords = None, []
    for about in root.iter(f"{_RDF}Description"):
        text = about.get(f"{_XMP}Rating") or _text(about.find(f"{_XMP}Rating"))
        if text and (found := _number(text)) is not None:
            rating = found
        subject = about.find(f"{_DC}subject")
        if subject is not None:
            keywords += [_text(one) for one in subject.iter(f"{_RDF}li")]
    words = (cleaned(word).strip()[:LONGEST_WORD] for word in keywords)
    return Sidecar(rating, tuple(dict.fromkeys(word for word in words if word))[:MOST_WORDS])


def _text(element: Element | None) -> str:
    return "" if element is None else (element.text or "").strip()


def _number(text: str) -> int | None:
    try:
        value = round(float(text))
    except (ValueError, OverflowError):
        return None
    return value if -1 <= value <= 5 else None


def stem(name: str) -> str:
    """What frames and sidecars of one picture are both called: names without their endings; a
    sidecar may keep the picture's."""
    base = name.lower().removesuffix(".xmp")
    return base.rsplit(".", 1)[0] if "." in base else base


def apply(outing: Outing, name: str, raw: bytes) -> int:
    """Say of the frames of that name what a sidecar says; of how many. Raises NoSidecar."""
    said = read(raw)
    wanted = stem(name)
    frames = [
        frame
        for frame in outing.frames.filter(name__istartswith=wanted)
        if stem(frame.name) == wanted
    ]
    for frame in frames:
        frame.rating = said.rating if said.rating is not None else frame.rating
        frame.keywords = list(dict.fromkeys([*frame.keywords, *said.keywords]))[:MOST_WORDS]
    Frame.objects.bulk_update(frames, ["rating", "keywords"])
    return len(frames)


def written(frame: Frame, words: Iterable[str] = ()) -> str:
    """A frame's sidecar. ``words``: keywords beside its own."""
    keywords = list(dict.fromkeys([*frame.keywords, *words]))
    return render_to_string("outings/sidecar.xmp", {"frame": frame, "keywords": keywords})


def zipped(frames: Iterable[Frame]) -> bytes:
    """The sidecars of frames in one archive, each named as its picture is."""
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as archive:
        for frame in frames:
            archive.writestr(f"{frame.name.rsplit('.', 1)[0]}.xmp", written(frame, words_of(frame)))
    return held.getvalue()


def words_of(frame: Frame) -> list[str]:
    """What was found, as keywords: of which plan it is, and what is soft in it."""
    found = [frame.item.name] if frame.item is not None and frame.sure else []
    marks = (frame.found or {}).get("marks", [])
    soft = [mark["name"] or mark["letter"] for mark in marks if mark["word"] == "soft"]
    return [*found, *(f"soft: {name}" for name in soft)]
