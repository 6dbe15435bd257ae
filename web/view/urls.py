from django.urls import path

from web.planner.addresses import addresses
from web.view import field_views, sheet_views
from web.view.views import pages

app_name = "view"
urlpatterns = [
    *addresses(pages, "plan"),
    path("field/", field_views.page, name="field"),
    path("plan/<int:key>/field/", field_views.page, name="kept_field"),
    path("sheet/", sheet_views.page, name="sheet"),
    path("sheet.pdf", sheet_views.as_pdf, name="sheet_pdf"),
    path("plan/<int:key>/sheet/", sheet_views.page, name="kept_sheet"),
    path("plan/<int:key>/sheet.pdf", sheet_views.as_pdf, name="kept_sheet_pdf"),
]
