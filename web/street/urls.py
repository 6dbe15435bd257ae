from django.urls import path

from web.street import set_views, views

app_name = "street"
urlpatterns = [
    path("", views.page, name="page"),
    path("set/<int:set_id>/", views.page, name="set"),
    path("sets/", set_views.sets, name="sets"),
    path("save/", views.save, name="save"),
    path("set/<int:set_id>/save/", views.save, name="save_set"),
    path("set/<int:set_id>/delete/", set_views.delete, name="delete"),
    path("set/<int:set_id>/duplicate/", set_views.duplicate, name="duplicate"),
    path("set/<int:set_id>/restore/", set_views.restore, name="restore"),
]
