"""What is promised of cards: one as PDF, two dozen in a pack, two hundred within their memory, and
how large ten are in one file. Times are beside that of the barest page, in one run."""

from __future__ import annotations

import resource
import statistics
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import cast

from django.test import Client

from web.bag.models import Lens
from web.cards.models import Card, Pack
from web.kept.models import Kept
from web.people.owners import OwnedRequest
from web.ui import printing

PROMISED_ONE, PROMISED_MANY = 0.150, 2.0
"""s: one card, and two dozen."""
PROMISED_MEMORY, PROMISED_FILE = 300e6, 400e3
"""Bytes: of the press and of what grew beside it at two hundred; of ten cards in one file."""
ROUNDS = 9


def median_of(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    """Median seconds of something, once it is warm."""
    work()
    found = []
    for _ in range(rounds):
        begun = time.perf_counter()
        work()
        found.append(time.perf_counter() - begun)
    return statistics.median(found)


def pack_of(count: int, values: list[str]) -> Pack:
    """A pack of so many cards, each of these in turn."""
    pack = Pack.objects.create(owner=Kept.objects.all()[0].owner, name=f"{count} cards")
    parts = [values[at % len(values)].split(":") for at in range(count)]
    Card.objects.bulk_create(
        Card(pack=pack, at=at, of=of, thing=int(key), face=face)
        for at, (of, key, face) in enumerate(parts)
    )
    return pack


def printed(client: Client, pack: Pack) -> bytes:
    """All of it, as a browser has it printed."""
    from web.cards import packs

    request = cast(OwnedRequest, client.get("/cards/").wsgi_request)
    packs.begin(pack, list(pack.cards.all()))
    while pack.queue:
        packs.step(pack, request)
    return packs.printed(pack)


def peak_of_press() -> int:
    """The most memory that both presses have held, bytes."""
    most = 0
    for which in (0, 1):
        process = printing.press(which)._process
        if process is not None:
            status = Path(f"/proc/{process.pid}/status").read_text()
            line = next(line for line in status.splitlines() if line.startswith("VmHWM"))
            most += int(line.split()[1]) * 1024
    return most


def main() -> int:
    """Print them; 1 if one is over what is promised."""
    client = Client()
    zoom = next(lens for lens in Lens.objects.all() if lens.is_zoom)
    of_kind = {kind: Kept.objects.filter(kind=kind)[0].pk for kind in ("plan", "set", "night")}
    paths = {kind: f"/cards/kept/{key}/card.pdf" for kind, key in of_kind.items()}
    paths |= {f"{one} of a lens": f"/cards/lens/{zoom.pk}/{one}.pdf"
              for one in ("zoom", "over", "table", "strip", "ring")}  # fmt: skip
    bare = median_of(lambda: printing.press().set(["<p>One</p>"], 1))
    print(f"the barest page              {1000 * bare:6.1f} ms")
    kept = True
    for name, path in paths.items():
        took = median_of(partial(client.get, path))
        print(f"{name:28} {1000 * took:6.1f} ms  ratio {took / bare:5.1f}  promised: at most 150")
        kept &= took <= PROMISED_ONE
    values = [f"kept:{one.pk}:card" for one in Kept.objects.all()]
    values += [f"lens:{zoom.pk}:zoom", f"lens:{zoom.pk}:over"]
    two_dozen = pack_of(24, values)
    took = median_of(lambda: printed(client, two_dozen), 3)
    print(
        f"24 cards of all kinds        {took:6.2f} s   ratio {took / bare:5.1f}  "
        "promised: at most 2"
    )
    kept &= took <= PROMISED_MANY
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    begun = time.perf_counter()
    data = printed(client, pack_of(200, values))
    took = time.perf_counter() - begun
    grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) * 1024
    memory = peak_of_press() + grown
    print(f"200 cards                    {took:6.1f} s   {len(data) / 1e6:.1f} MB of PDF")
    print(f"the press, and what grew     {memory / 1e6:6.0f} MB  promised: at most 300")
    kept &= memory <= PROMISED_MEMORY
    size = len(client.get(f"/cards/packs/{pack_of(10, values).pk}/pocket.html").content)
    print(f"ten cards in one file        {size / 1e3:6.0f} kB  promised: at most 400")
    kept &= size <= PROMISED_FILE
    return 0 if kept else 1
