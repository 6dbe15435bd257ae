"""Where what is here was before: the practice of Street's positions."""

from collections.abc import Callable

from django.http.response import HttpResponseBase
from django.urls import path
from django.views.decorators.http import require_safe
from django.views.generic import RedirectView


def _to(name: str) -> Callable[..., HttpResponseBase]:
    return require_safe(RedirectView.as_view(pattern_name=name, query_string=True, permanent=True))


urlpatterns = [
    path("street/practice/", _to("drills:play"), {"key": "positions"}),
    path("street/set/<int:key>/practice/", _to("drills:set")),
]
