"""Addresses of drills."""

from django.urls import path

from web.drills import pictures, views

app_name = "drills"
urlpatterns = [
    path("", views.page, name="page"),
    path("field/", views.field, name="field"),
    path("tries.json", views.tries, name="tries"),
    path("tries.csv", views.table, name="table"),
    path("accept/", views.accept, name="accept"),
    path("seen/<str:said>/", pictures.seen, name="seen"),
    path("set/<int:key>/practice/", views.of_set, name="set"),
    path("<slug:key>/practice/", views.play, name="play"),
]
