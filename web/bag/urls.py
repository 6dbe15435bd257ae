from django.urls import path

from web.bag import compare_views, file_views, views

app_name = "bag"
urlpatterns = [
    path("", views.overview, name="overview"),
    path("standards/", compare_views.standards, name="standards"),
    path("formats/", compare_views.formats, name="formats"),
    path("file/", file_views.file, name="file"),
    path("import/", file_views.bring_in, name="import"),
    path("lens/preview/", views.preview, name="preview"),
    path("start/", views.start_empty, name="start_empty"),
    path("start/back/", views.fill_again, name="fill_again"),
    path("<slug:slug>/new/", views.edit, name="new"),
    path("<slug:slug>/<int:key>/", views.edit, name="edit"),
    path("<slug:slug>/<int:key>/take-out/", views.take_out, name="take_out"),
    path("<slug:slug>/<int:key>/put-back/", views.put_back, name="put_back"),
]
