"""The log of an outing: entries come from devices, sooner or later, each of them once.

A device makes an entry with a key of its own, keeps it, and sends it until it has been heard; what
comes twice is the same one. Of what can only be one way at a time, an entry says which one it
follows: two that follow the same one, made by devices that did not know of each other, contradict
each other if they do not say the same, and both stay until somebody settles it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from web.outings.models import MOST_ENTRIES, Entry, Item, Outing, What
from web.ui.sent import KEY, MOST_AT_ONCE, Heard, time_of
from web.ui.text import cleaned

_WORD = 24
LONGEST_NOTE = 500
_LONGEST_SAID = 12
WORDS = ("holds", "just", "soft")
ENDS = ("nearest", "subject", "farthest")


@transaction.atomic
def hear(outing: Outing, sent: object) -> Heard:
    """Take entries in that a device sends, a list of plain data; those that are there are heard
    again, and change nothing."""
    heard = Heard()
    if not isinstance(sent, list):
        return heard
    items = {item.number: item for item in outing.items.all()}
    there = set(outing.entries.values_list("key", flat=True))
    fresh: list[Entry] = []
    for one in sent[:MOST_AT_ONCE]:
        key = str(one.get("key", ""))[:36] if isinstance(one, dict) else ""
        if not KEY.fullmatch(key):
            heard.refused.append((key, "It has no key."))
        elif key in there:
            heard.kept.append(key)
        elif len(there) >= MOST_ENTRIES:
            heard.refused.append((key, f"The log has room for {MOST_ENTRIES} entries."))
        else:
            entry = read(one, key, items)
            if isinstance(entry, str):
                heard.refused.append((key, entry))
                continue
            entry.outing = outing
            fresh.append(entry)
            there.add(key)
            heard.kept.append(key)
    Entry.objects.bulk_create(fresh, ignore_conflicts=True)
    return heard


def read(one: dict[str, Any], key: str, items: dict[int, Item]) -> Entry | str:
    """An entry from plain data; or why it is none."""
    what = one.get("what")
    if what not in What.values:
        return "It is nothing that can be logged."
    at = time_of(one.get("at"))
    if isinstance(at, str):
        return at
    item = one.get("item")
    there = items.get(item) if isinstance(item, int) else None
    # None too where it was taken out of the outing meanwhile: what happened still happened
    return Entry(
        key=key,
        device=_word(one.get("device"), _WORD),
        at=at,
        what=what,
        item=there,
        subject=_word(one.get("subject"), 60),
        follows=_word(one.get("follows"), 36),
        says=_said(one.get("says")),
    )


def _word(value: object, most: int) -> str:
    return cleaned(value).strip()[:most] if isinstance(value, str) else ""


def _said(value: object) -> dict[str, str]:
    """What else was said: a few words each."""
    if not isinstance(value, dict):
        return {}
    return {
        _word(name, _WORD): cleaned(str(text), lines=True)[:LONGEST_NOTE]
        for name, text in list(value.items())[:_LONGEST_SAID]
    }


def plain(entry: Entry) -> dict[str, Any]:
    """An entry as devices have it."""
    return {
        "key": entry.key, "device": entry.device, "at": entry.at.isoformat(), "what": entry.what,
        "item": None if entry.item is None else entry.item.number, "subject": entry.subject,
        "follows": entry.follows, "says": entry.says,
    }  # fmt: skip


@dataclass(frozen=True)
class Conflict:
    """Entries that contradict each other, the first logged first."""

    subject: str
    entries: tuple[Entry, ...]


def standing(entries: Iterable[Entry]) -> list[Entry]:
    """Those that were not taken back, nor do they take back."""
    entries = list(entries)
    gone = {one.says.get("of", "") for one in entries if one.what == What.UNDONE}
    return [one for one in entries if one.key not in gone and one.what != What.UNDONE]


def conflicts(entries: Iterable[Entry]) -> list[Conflict]:
    """What contradicts each other, and nobody has settled."""
    there = standing(entries)
    settled = {
        key for one in there if one.what == What.SETTLED for key in one.says.get("over", "").split()
    }
    by_parent: dict[tuple[str, str], list[Entry]] = {}
    for one in there:
        if one.subject and one.what != What.SETTLED:
            by_parent.setdefault((one.subject, one.follows), []).append(one)
    found = []
    for (subject, _), group in by_parent.items():
        open_ = [one for one in group if one.key not in settled]
        devices = {one.device for one in open_}
        if len(devices) > 1 and len({_meaning(one) for one in open_}) > 1:
            found.append(Conflict(subject, tuple(open_)))
    return found


def _meaning(entry: Entry) -> tuple[str, str]:
    return entry.what, "|".join(f"{k}={v}" for k, v in sorted(entry.says.items()))
