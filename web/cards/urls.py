from django.urls import path

from web.cards import of_kept, pack_views, views

app_name = "cards"
urlpatterns = [
    path("", views.page, name="page"),
    path("lens/<int:key>/", views.lens, name="lens"),
    path("lens/<int:key>/pocket.html", views.pocket, name="pocket"),
    path("lens/<int:key>/table.csv", views.numbers, {"kind": "csv"}, name="csv"),
    path("lens/<int:key>/table.json", views.numbers, {"kind": "json"}, name="json"),
    path("lens/<int:key>/<slug:kind>.pdf", views.printed, name="pdf"),
    path("lens/<int:key>/<slug:kind>.png", views.printed, {"ending": "png"}, name="png"),
    path("lens/<int:key>/<slug:kind>.svg", views.printed, {"ending": "svg"}, name="svg"),
    path("bag/", views.bag, name="bag"),
    path("bag/card.<slug:ending>", views.bag_file, name="bag_file"),
    path("strip/", views.strip, name="strip"),
    path("at/", of_kept.at, name="at"),
    path("packs/new/", pack_views.new, name="new_pack"),
    path("packs/put/", pack_views.put, name="put"),
    path("packs/<int:key>/", pack_views.page, name="pack"),
    path("packs/<int:key>/state/", pack_views.state, name="state"),
    path("packs/<int:key>/put/", pack_views.put, name="put_in"),
    path("packs/<int:key>/change/", pack_views.change, name="change"),
    path("packs/<int:key>/delete/", pack_views.delete, name="delete"),
    path("packs/<int:key>/restore/", pack_views.restore, name="restore"),
    path("packs/<int:key>/print/", pack_views.begin, name="print"),
    path("packs/<int:key>/print/on/", pack_views.go_on, name="go_on"),
    path("packs/<int:key>/pocket.html", pack_views.pocket, name="pack_pocket"),
    path("packs/<int:key>/cards.pdf", pack_views.pdf, name="pack_pdf"),
    path("kept/<int:key>/<slug:face>/", of_kept.page, name="kept"),
    path("kept/<int:key>/<slug:face>.pdf", of_kept.pdf, name="kept_pdf"),
    path("kept/<int:key>/<slug:face>.png", of_kept.picture, {"ending": "png"}, name="kept_png"),
    path("kept/<int:key>/<slug:face>.svg", of_kept.picture, {"ending": "svg"}, name="kept_svg"),
    path("<slug:kind>/<slug:face>/", of_kept.page, name="loose"),
    path("<slug:kind>/<slug:face>.pdf", of_kept.pdf, name="loose_pdf"),
    path("<slug:kind>/<slug:face>.png", of_kept.picture, {"ending": "png"}, name="loose_png"),
    path("<slug:kind>/<slug:face>.svg", of_kept.picture, {"ending": "svg"}, name="loose_svg"),
]
