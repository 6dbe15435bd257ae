from django.urls import path

from web.hand import views

app_name = "hand"
urlpatterns = [
    path("", views.take, name="take"),
    path("ring-off/", views.ring_off, name="ring_off"),
]
