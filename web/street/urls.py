from django.urls import path

from web.planner.addresses import addresses
from web.street import practice
from web.street.views import pages

app_name = "street"
urlpatterns = [
    *addresses(pages, "set"),
    path("practice/", practice.page, name="practice"),
    path("set/<int:key>/practice/", practice.page, name="kept_practice"),
]
