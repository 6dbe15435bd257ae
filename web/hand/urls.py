from django.urls import path

from web.hand import views

app_name = "hand"
urlpatterns = [path("", views.take, name="take")]
