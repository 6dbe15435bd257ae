from django.urls import path

from web.planner.addresses import addresses
from web.sky import walk_views
from web.sky.views import pages

app_name = "sky"
urlpatterns = [
    *addresses(pages, "night"),
    path("walk/", walk_views.page, name="walk"),
    path("night/<int:key>/walk/", walk_views.page, name="kept_walk"),
]
