"""The speeds that are promised, as ratios within one run: ./aim bench

View's answer fragment for a change of aperture, against a bare Django view with the same
middleware and one query: as the page first opens, with everything else folded away, and with eight
marks and everything drawn from the answer unfolded. And Street's, with three positions: tiles,
pavement, what to expect and the table; and with all its folds open; and Sky's. And the list of what
is kept, searched by name, with ten thousand things against a hundred. All go through the WSGI
handler. Then cards on paper (``bench_cards``). Before them
the core (``bench_core``) and pictures (``bench_pictures``).
"""

from __future__ import annotations

import io
import os
import statistics
import sys
import time
from collections.abc import Callable
from typing import Any

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings.test")

import django

django.setup()

from django.core.handlers.wsgi import WSGIHandler
from django.db import connection
from django.http import HttpRequest, HttpResponse, QueryDict
from django.urls import path

import web.urls
from tools import bench_cards, bench_core, bench_outings, bench_pictures
from web.bag.models import Lens
from web.demo.world import load
from web.kept.models import Kept
from web.people.owners import sample
from web.sky.folds import ALL as SKY_FOLDS
from web.sky.sample import GEAR as SKY
from web.street import folds as street_folds
from web.street.sample import GEAR as STREET
from web.view import folds
from web.view.forms import sample_query, scene_query
from web.view.sample import GEAR

PROMISED_FRAGMENT_RATIO = 3.0
PROMISED_UNFOLDED_RATIO = 12.0
PROMISED_SECONDS = 0.060
PROMISED_PLANNER_RATIO = 10.0
PROMISED_LIST_RATIO = 1.5
ROUNDS = 100


def bare(request: HttpRequest) -> HttpResponse:
    """The least a view with one query can do: for a lens, as an answer asks for one."""
    lens = Lens.objects.first()
    return HttpResponse(lens.name if lens else "")


ALL_OF_SKY = tuple(fold.id for fold in SKY_FOLDS)
POINTED = {"latitude": "47", "direction": "SSE", "height": "25", "foreground": "1.5 m"}


def environ(path_info: str, query: str, unfolded: str = "") -> dict[str, Any]:
    """What a server hands to the application for a GET by htmx."""
    return {
        "REQUEST_METHOD": "GET",
        "PATH_INFO": path_info,
        "QUERY_STRING": query,
        "SERVER_NAME": "localhost",
        "SERVER_PORT": "80",
        "SERVER_PROTOCOL": "HTTP/1.1",
        "HTTP_HOST": "localhost",
        "HTTP_HX_REQUEST": "true",
        "HTTP_AIM_SCREEN": "wide",
        "HTTP_AIM_UNFOLDED": unfolded,
        "wsgi.input": io.BytesIO(),
        "wsgi.errors": sys.stderr,
        "wsgi.url_scheme": "http",
    }


def _ignore(*args: Any) -> None:
    """A server's start_response that sends nothing."""


def timed(handler: WSGIHandler, request: dict[str, Any]) -> float:
    """Seconds for one call."""
    start = time.perf_counter()
    response = handler(request, _ignore)  # type: ignore[arg-type]
    taken = time.perf_counter() - start
    if response.status_code != 200:
        raise RuntimeError(f"{request['PATH_INFO']} answered {response.status_code}")
    response.close()
    return taken


def fragment_requests() -> list[dict[str, Any]]:
    """The sample scene at one aperture after another."""
    requests = []
    for f_number in ("8", "9", "10", "11", "13", "14", "16", "18", "20", "22"):
        query = sample_query()
        query["f_number"] = f_number
        requests.append(environ("/view/", query.urlencode()))
    return requests


MARKS = (
    ("1.3 m", "must"), ("4.2 m", "must"), ("180 m", "must"), ("0.8 m", "may_go"),
    ("1.31 m", "nice"), ("2.5 m", "must"), ("60 m", "must"), ("inf", "fall_soft"),
)  # fmt: skip


COMPARED = ("fold-ways", "fold-frame")
"""All schools, and the picture in the finder beside the sightline."""
ALL_OF_STREET = tuple(fold.id for fold in street_folds.ALL)
EVERYTHING = tuple(fold.id for fold in (*folds.RESULTS, *folds.WHY))


def unfolded_requests(parts: tuple[str, ...]) -> list[dict[str, Any]]:
    """The same with eight marks, and some of what is drawn with the answer unfolded."""
    unfolded = " ".join(parts)
    requests = []
    for f_number in ("8", "9", "10", "11", "13", "14", "16", "18", "20", "22"):
        marks = [(f"Mark {at}", *said) for at, said in enumerate(MARKS)]
        query = scene_query({**GEAR, "f_number": f_number}, marks)
        requests.append(environ("/view/", query.urlencode(), unfolded))
    return requests


def street_requests(parts: tuple[str, ...]) -> list[dict[str, Any]]:
    """Street's sample at one aperture after another."""
    requests = []
    for f_number in ("4", "4.5", "5", "5.6", "6.3", "7.1", "8", "9", "10", "11", "13", "14", "16"):
        query = QueryDict(mutable=True)
        query.update({**STREET, "f_number": f_number})
        requests.append(environ("/street/", query.urlencode(), " ".join(parts)))
    return requests


def sky_requests(more: dict[str, str], parts: tuple[str, ...] = ()) -> list[dict[str, Any]]:
    """Sky, for a change of aperture, with some of what is folded unfolded."""
    requests = []
    for f_number in ("2", "2.8"):
        query = QueryDict(mutable=True)
        query.update({**SKY, **more, "f_number": f_number})
        requests.append(environ("/sky/", query.urlencode(), " ".join(parts)))
    return requests


def measured(requests: list[dict[str, Any]], rounds: int) -> tuple[float, float]:
    """Median seconds of some requests and of the bare view.

    Measured call by call in turns, so that both meet the same moods of the machine.
    """
    handler = WSGIHandler()
    fragments, bares = [], []
    for _ in range(rounds):
        for request in requests:
            fragments.append(timed(handler, request))
            bares.append(timed(handler, environ("/bare/", "")))
    return statistics.median(fragments), statistics.median(bares)


def kept_ratio() -> tuple[float, float]:
    """Median seconds of the list of what is kept, with a hundred things and with ten thousand."""
    handler, owner = WSGIHandler(), sample()
    link = sample_query().urlencode()
    found = []
    for count in (100, 10_000):
        there = Kept.objects.filter(owner=owner).count()
        Kept.objects.bulk_create(
            Kept(owner=owner, kind="plan", name=f"Plan {at}", link=link, lens=f"Lens {at % 7}")
            for at in range(there, count)
        )
        request = environ("/kept/", "q=plan")
        found.append(statistics.median(timed(handler, request) for _ in range(9)))
    return found[0], found[1]


def in_test_database(work: Callable[[], int]) -> int:
    """Run ``work`` with the sample world in a database of its own."""
    name = connection.creation.create_test_db(verbosity=0, autoclobber=True)
    try:
        load()
        return work()
    finally:
        connection.creation.destroy_test_db(name, verbosity=0)


def main() -> int:
    """Print the ratios; 1 if one is over what is promised."""
    web.urls.urlpatterns.append(path("bare/", bare))
    few = ROUNDS // 4
    kept = True
    for name, requests, rounds, promised in (
        ("view answer fragment", fragment_requests(), ROUNDS, PROMISED_FRAGMENT_RATIO),
        ("eight marks, schools, frame", unfolded_requests(COMPARED), few, PROMISED_UNFOLDED_RATIO),
        ("the same, all unfolded", unfolded_requests(EVERYTHING), few, None),
        ("street, three positions", street_requests(()), few, PROMISED_PLANNER_RATIO),
        ("the same, all unfolded", street_requests(ALL_OF_STREET), few, None),
        ("sky", sky_requests({}), few, PROMISED_PLANNER_RATIO),
        ("the same, all unfolded", sky_requests(POINTED, ALL_OF_SKY), few, None),
    ):
        whole, plain = measured(requests, rounds)
        said = "" if promised is None else f"promised: at most {promised:g}"
        print(f"{name:28} {1000 * whole:6.2f} ms  promised: at most 60")
        print(f"bare view, one query         {1000 * plain:6.2f} ms")
        print(f"ratio                        {whole / plain:6.2f}     {said}")
        kept &= promised is None or whole / plain <= promised
        kept &= whole <= PROMISED_SECONDS
    few_kept, many_kept = kept_ratio()
    print(f"the list, 100 kept           {1000 * few_kept:6.2f} ms")
    print(f"the list, 10 000 kept        {1000 * many_kept:6.2f} ms")
    print(f"ratio                        {many_kept / few_kept:6.2f}     promised: at most 1.5")
    kept &= many_kept / few_kept <= PROMISED_LIST_RATIO
    return 0 if kept else 1


if __name__ == "__main__":
    alone = bench_core.main() | bench_pictures.main()
    alone |= in_test_database(bench_outings.main)
    sys.exit(alone | in_test_database(main) | in_test_database(bench_cards.main))
