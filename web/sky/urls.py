from django.urls import path

from web.sky import views

app_name = "sky"
urlpatterns = [path("", views.page, name="page")]
