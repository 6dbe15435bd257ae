"""The sample world's outings: one at Sallow Pit, one in Tinder Row, one at Hallin Top."""

from __future__ import annotations

import base64
from datetime import UTC, date, datetime, timedelta
from typing import Any

from web.demo.came_home import frames
from web.hand.asker import ANYBODY
from web.kept.kinds import known
from web.kept.models import Kept
from web.outings.models import Entry, Frame, Item, Look, Outing, What
from web.outings.taken_out import TakenOut
from web.outings.telling import tell_all
from web.people.models import Owner
from web.view.forms import scene_query
from web.view.sample import GEAR

_WHEEL = "Sallow Pit, the wheel alone"
_OUTINGS: tuple[dict[str, Any], ...] = (
    {
        "name": "Tinder Row, before the rain", "place": "Tinder Row", "on": date(2026, 3, 12),
        "grounds": ["people", "road"], "waits_for": "Nothing: what comes by.",
        "better": "Shoot at 1/250 s or shorter.",
        "out": ("Tinder Row, under the wires", "Tinder Row"),
    },
    {
        "name": "Hallin Top, new moon", "place": "Hallin Top", "on": date(2026, 3, 18),
        "grounds": ["night", "edges"], "waits_for": "Dark by half past eight.",
        "better": "Try 10 s first, and magnify a corner.",
        "out": ("Hallin Top, the hut", "Hallin Top"),
    },
    {
        "name": "Sallow Pit, low sun", "place": "Sallow Pit", "on": date(2026, 3, 7),
        "grounds": ["water", "edges"], "waits_for": "Sun under the cloud, no wind.",
        "better": "Magnify the ridge too; stay at f/11.",
        "out": ("Sallow Pit", _WHEEL), "again_waves": 3,
    },
)  # fmt: skip
_LOGGED: tuple[tuple[str, datetime, str, str, dict[str, str]], ...] = (
    ("Sallow Pit, low sun", datetime(2026, 3, 7, 16, 28, tzinfo=UTC), "Sallow Pit", "checked",
     {"end": "nearest", "word": "holds"}),
    ("Sallow Pit, low sun", datetime(2026, 3, 7, 16, 29, tzinfo=UTC), "Sallow Pit", "checked",
     {"end": "farthest", "word": "just"}),
    ("Sallow Pit, low sun", datetime(2026, 3, 7, 16, 48, tzinfo=UTC), "Sallow Pit", "knocked", {}),
    ("Sallow Pit, low sun", datetime(2026, 3, 7, 17, 4, tzinfo=UTC), "Sallow Pit", "wind", {}),
    ("Hallin Top, new moon", datetime(2026, 3, 18, 21, 38, tzinfo=UTC), "Hallin Top", "note",
     {"text": "Colder than thought: ring taped, focused again."}),
)  # fmt: skip


def go_out(owner: Owner) -> None:
    """Give an owner the sample's outings, with their log and what came home."""
    kept = {one.name: one for one in Kept.objects.filter(owner=owner)}
    nights = {one.name: one for one in Kept.objects.filter(owner=owner, kind="night")}
    sets = {one.name: one for one in Kept.objects.filter(owner=owner, kind="set")}
    made: dict[str, Outing] = {}
    when = datetime(2026, 3, 20, tzinfo=UTC)
    for said in _OUTINGS:
        fields = {name: value for name, value in said.items() if name != "out"}
        outing = Outing.objects.create(owner=owner, changed=when, begun=when, **fields)
        made[outing.name] = outing
        for at, name in enumerate(said["out"]):
            one = nights.get(name) if at and name in nights else kept.get(name)
            one = sets.get(name) if at and name in sets else one
            _take_out(outing, one, name, at)
    _log(made)
    _bring_home(made)


def _take_out(outing: Outing, kept: Kept | None, name: str, at: int) -> None:
    if kept is None:
        texts = {**GEAR, "f_number": "22", "place": "subject", "circle_mm": "0.012"}
        link = scene_query(texts, (("Winch wheel", "4.2 m", "must"),)).urlencode()
        kept = Kept(kind="plan", name=name, link=link, lens=GEAR["lens"])
    item = Item(outing=outing, at=at, kept=kept.pk, kind=kept.kind, name=name, link=kept.link,
                lens=kept.lens)  # fmt: skip
    item.says = _out(item).says
    item.save()


def _out(item: Item) -> TakenOut:
    kind = known(item.kind)
    assert kind is not None
    return TakenOut(item, kind, ANYBODY, None, begun=True)


def _log(made: dict[str, Outing]) -> None:
    """What was logged: a frame taken for each that came home, and the rest."""
    entries = []
    for at, frame in enumerate(frames()):
        outing = made[frame["outing"]]
        item = outing.items.get(name=frame["plan"])
        time = _time(frame["taken"]) + timedelta(seconds=8)
        entries.append(Entry(outing=outing, key=f"5a17e000-{at:04d}", device="phone 5a17", at=time,
                             what=What.TAKEN, item=item))  # fmt: skip
    for at, (name, time, plan, what, says) in enumerate(_LOGGED):
        item = made[name].items.get(name=plan)
        subject = f"check:{item.pk}:{says['end']}" if "end" in says else ""
        entries.append(Entry(outing=made[name], key=f"5a17e001-{at:04d}", device="phone 5a17",
                             at=time, what=what, item=item, subject=subject,
                             says=says))  # fmt: skip
    Entry.objects.bulk_create(entries)


def _time(text: str) -> datetime:
    return datetime.strptime(text, "%Y:%m:%d %H:%M:%S").replace(tzinfo=UTC)


def _bring_home(made: dict[str, Outing]) -> None:
    """The frames, each of its plan, and what is found in them."""
    rows: dict[str, list[Frame]] = {}
    for said in frames():
        outing = made[said["outing"]]
        look, _ = Look.objects.get_or_create(
            digest=said["digest"],
            defaults={"small": base64.b64decode(said["small"]), "whole": said["whole"]},
        )
        at = _time(said["taken"])
        copied = {name: said[name] for name in _COPIED}
        frame = Frame.objects.create(
            outing=outing, look=look, at=at, order=int(at.timestamp() * 1000),
            item=outing.items.get(name=said["plan"]), sure=True,
            why="By time, focal length, aperture.", **copied,
        )  # fmt: skip
        rows.setdefault(outing.name, []).append(frame)
    for name, there in rows.items():
        out = [_out(item) for item in made[name].items.all()]
        tell_all(made[name], out, there)


_COPIED = (
    "name", "bytes", "f_number", "focal_length_mm", "exposure_s", "iso", "body", "lens", "focus_mm",
    "pitch_mm", "width", "height", "marks",
)  # fmt: skip
