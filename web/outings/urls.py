"""Addresses of outings."""

from django.urls import path

from web.outings import views

app_name = "outings"
urlpatterns = [
    path("snapshot/", views.snapshot, name="snapshot"),
    path("snapshot/read/", views.read_file, name="read"),
]
