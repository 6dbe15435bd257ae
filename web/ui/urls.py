from django.urls import path

from web.ui import preferences

app_name = "ui"
urlpatterns = [path("light/", preferences.set_light, name="light")]
