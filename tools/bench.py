"""The speeds that are promised, as ratios within one run: ./aim bench

View's answer fragment for a change of aperture, against a bare Django view with the same
middleware and one query. Both go through the WSGI handler; the promise is at most 3.
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
from django.http import HttpRequest, HttpResponse
from django.urls import path

import web.urls
from tools import bench_core
from web.demo.world import load
from web.view.forms import sample_query
from web.view.models import Plan

PROMISED_FRAGMENT_RATIO = 3.0
ROUNDS = 100


def bare(request: HttpRequest) -> HttpResponse:
    """The least a view with one query can do."""
    plan = Plan.objects.first()
    return HttpResponse(plan.name if plan else "")


def environ(path_info: str, query: str) -> dict[str, Any]:
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


def fragment_ratio() -> tuple[float, float]:
    """Median seconds of the fragment and of the bare view.

    Measured call by call in turns, so that both meet the same moods of the machine.
    """
    handler = WSGIHandler()
    fragments, bares = [], []
    for _ in range(ROUNDS):
        for request in fragment_requests():
            fragments.append(timed(handler, request))
            bares.append(timed(handler, environ("/bare/", "")))
    return statistics.median(fragments), statistics.median(bares)


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
    fragment, plain = fragment_ratio()
    ratio = fragment / plain
    print(f"view answer fragment   {1000 * fragment:6.2f} ms")
    print(f"bare view, one query   {1000 * plain:6.2f} ms")
    print(f"ratio                  {ratio:6.2f}     promised: at most {PROMISED_FRAGMENT_RATIO:g}")
    return 0 if ratio <= PROMISED_FRAGMENT_RATIO else 1


if __name__ == "__main__":
    sys.exit(bench_core.main() | in_test_database(main))
