"""Addresses of the bench."""

from django.urls import path

from web.bench import lens_views, loupe_views, target_views, views

app_name = "bench"
urlpatterns = [
    path("", views.page, name="page"),
    path("begin/", views.begin, name="begin"),
    path("tests/<int:key>/", views.test, name="test"),
    path("tests/<int:key>/steps/", views.steps, name="steps"),
    path("tests/<int:key>/frames/", views.frames, name="frames"),
    path("tests/<int:key>/reading/", views.reading, name="reading"),
    path("tests/<int:key>/made-up/", views.made_up, name="made_up"),
    path("tests/<int:key>/say/", views.say, name="say"),
    path("tests/<int:key>/keep/", views.keep, name="keep"),
    path("tests/<int:key>/<int:frame>.jpg", views.small, name="small"),
    path("lens/<int:key>/", lens_views.page, name="lens"),
    path("lens/<int:key>/found/", lens_views.found, name="found"),
    path("frames/<int:key>.jpg", lens_views.thumbnail, name="thumbnail"),
    path("loupe/", loupe_views.page, name="loupe"),
    path("loupe/compare/", loupe_views.compare, name="compare"),
    path("loupe/developed/", loupe_views.developed, name="developed"),
    path("loupe/<slug:seed>/<slug:which>.jpg", loupe_views.made_up, name="loupe_made_up"),
    path("target/", target_views.page, name="target"),
    path("target/<slug:paper>.pdf", target_views.pdf, name="target_pdf"),
]
