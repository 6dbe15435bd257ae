"""Where planners once had their cards: those addresses lead on."""

from django.urls import path

from web.cards.of_kept import moved

_WERE = (
    ("view", "plan", "plan", "sheet"),
    ("street", "set", "set", "card"),
    ("sky", "night", "night", "card"),
)
"""The planner, the kind, what an address called one, and what it had."""

urlpatterns = [
    path(f"{place}{face}{ending}", moved, {"kind": kind, "face": face})
    for app, kind, one, face in _WERE
    for place in (f"{app}/", f"{app}/{one}/<int:key>/")
    for ending in ("/", ".pdf")
]
