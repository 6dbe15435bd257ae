"""Addresses of the bench."""

from django.urls import path

from web.bench import views

app_name = "bench"
urlpatterns = [
    path("", views.page, name="page"),
    path("begin/", views.begin, name="begin"),
    path("tests/<int:key>/", views.test, name="test"),
    path("tests/<int:key>/steps/", views.steps, name="steps"),
    path("tests/<int:key>/frames/", views.frames, name="frames"),
    path("tests/<int:key>/made-up/", views.made_up, name="made_up"),
    path("tests/<int:key>/say/", views.say, name="say"),
    path("tests/<int:key>/keep/", views.keep, name="keep"),
    path("tests/<int:key>/<int:frame>.jpg", views.small, name="small"),
    path("lens/<int:key>/", views.lens, name="lens"),
    path("lens/<int:key>/found/", views.found, name="found"),
    path("frames/<int:key>.jpg", views.thumbnail, name="thumbnail"),
    path("target/", views.target_page, name="target"),
    path("target/<slug:paper>.pdf", views.target_pdf, name="target_pdf"),
]
