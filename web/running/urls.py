from django.urls import path

from web.running import views

app_name = "running"
urlpatterns = [
    path("health/", views.health, name="health"),
    path("metrics/", views.metrics, name="metrics"),
]
