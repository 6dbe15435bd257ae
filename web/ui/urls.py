from django.urls import path

from web.ui import bundles, preferences

app_name = "ui"
urlpatterns = [
    path("light/", preferences.set_light, name="light"),
    path("bundle/<slug:digest>/<slug:key>.<slug:kind>", bundles.send, name="bundle"),
]
