from django.urls import path

from web.view import views

app_name = "view"
urlpatterns = [
    path("", views.page, name="page"),
    path("plan/<int:plan_id>/", views.page, name="plan"),
    path("plans/", views.plans, name="plans"),
    path("save/", views.save, name="save"),
    path("plan/<int:plan_id>/save/", views.save, name="save_plan"),
    path("plan/<int:plan_id>/delete/", views.delete, name="delete"),
    path("plan/<int:plan_id>/restore/", views.restore, name="restore"),
]
