from django.urls import path

from web.kept import views

app_name = "kept"
urlpatterns = [
    path("", views.page, name="page"),
    path("<int:key>/delete/", views.delete, name="delete"),
    path("<int:key>/duplicate/", views.duplicate, name="duplicate"),
    path("<int:key>/restore/", views.restore, name="restore"),
]
