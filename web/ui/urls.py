from django.urls import path

from web.ui import bundles, offline, preferences

app_name = "ui"
urlpatterns = [
    path("worker.js", offline.worker, name="worker"),
    path("manifest.webmanifest", offline.manifest, name="manifest"),
    path("off-line/", offline.page, name="off_line"),
    path("light/", preferences.set_light, name="light"),
    path("bundle/<slug:digest>/<slug:key>.<slug:kind>", bundles.send, name="bundle"),
]
