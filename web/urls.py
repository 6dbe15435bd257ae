"""Includes only."""

from django.urls import include, path
from django.views.decorators.http import require_safe
from django.views.generic import RedirectView

home = RedirectView.as_view(pattern_name="view:page", query_string=True)
urlpatterns = [
    path("", require_safe(home), name="home"),
    path("bag/in-hand/", include("web.hand.urls")),
    path("bag/", include("web.bag.urls")),
    path("kept/", include("web.kept.urls")),
    path("view/", include("web.view.urls")),
    path("street/", include("web.street.urls")),
    path("sky/", include("web.sky.urls")),
    path("cards/", include("web.cards.urls")),
    path("bench/", include("web.bench.urls")),
    path("outings/", include("web.outings.urls")),
    path("drills/", include("web.drills.urls")),
    path("", include("web.cards.moved")),
    path("", include("web.drills.moved")),
    path("you/", include("web.people.urls")),
    path("", include("web.running.urls")),
    path("", include("web.ui.urls")),
]

handler400 = "web.ui.errors.bad_request"
handler404 = "web.ui.errors.not_found"
handler500 = "web.ui.errors.server_error"
