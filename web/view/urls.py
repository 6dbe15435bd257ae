from django.urls import path

from web.planner.addresses import addresses
from web.view import field_views
from web.view.views import pages

app_name = "view"
urlpatterns = [
    *addresses(pages, "plan"),
    path("field/", field_views.page, name="field"),
    path("plan/<int:key>/field/", field_views.page, name="kept_field"),
]
