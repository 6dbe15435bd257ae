from django.urls import path

from web.cards import of_kept, views

app_name = "cards"
urlpatterns = [
    path("", views.page, name="page"),
    path("lens/<int:key>/", views.lens, name="lens"),
    path("lens/<int:key>/pocket.html", views.pocket, name="pocket"),
    path("lens/<int:key>/table.csv", views.numbers, {"kind": "csv"}, name="csv"),
    path("lens/<int:key>/table.json", views.numbers, {"kind": "json"}, name="json"),
    path("lens/<int:key>/<slug:kind>.pdf", views.pdf, name="pdf"),
    path("kept/<int:key>/<slug:face>/", of_kept.page, name="kept"),
    path("kept/<int:key>/<slug:face>.pdf", of_kept.pdf, name="kept_pdf"),
    path("<slug:kind>/<slug:face>/", of_kept.page, name="loose"),
    path("<slug:kind>/<slug:face>.pdf", of_kept.pdf, name="loose_pdf"),
]
