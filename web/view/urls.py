from django.urls import path

from web.view import plan_views, sheet_views, views

app_name = "view"
urlpatterns = [
    path("", views.page, name="page"),
    path("plan/<int:plan_id>/", views.page, name="plan"),
    path("plans/", plan_views.plans, name="plans"),
    path("save/", views.save, name="save"),
    path("plan/<int:plan_id>/save/", views.save, name="save_plan"),
    path("sheet/", sheet_views.page, name="sheet"),
    path("sheet.pdf", sheet_views.as_pdf, name="sheet_pdf"),
    path("plan/<int:plan_id>/sheet/", sheet_views.page, name="plan_sheet"),
    path("plan/<int:plan_id>/sheet.pdf", sheet_views.as_pdf, name="plan_sheet_pdf"),
    path("plan/<int:plan_id>/delete/", plan_views.delete, name="delete"),
    path("plan/<int:plan_id>/duplicate/", plan_views.duplicate, name="duplicate"),
    path("plan/<int:plan_id>/restore/", plan_views.restore, name="restore"),
]
