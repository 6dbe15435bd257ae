"""Where what is here was before: the practice of Street's positions."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import redirect
from django.urls import path, reverse
from django.views.decorators.http import require_safe

from web.drills.gear import NO_SET
from web.kept.models import Kept
from web.people.owners import OwnedRequest, find


@require_safe
def practice(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """To the positions by touch, of the same street."""
    if key is None:
        there = reverse("drills:play", args=["positions"])
        link = request.GET.urlencode()
        return redirect(f"{there}?{link}" if link else there, permanent=True)
    return redirect("drills:set", find(Kept, request.owner, key, NO_SET).pk, permanent=True)


urlpatterns = [
    path("street/practice/", practice),
    path("street/set/<int:key>/practice/", practice),
]
