from django.urls import path

from web.bag import file_views, views

app_name = "bag"
urlpatterns = [
    path("", views.overview, name="overview"),
    path("standards/", views.standards, name="standards"),
    path("formats/", views.formats, name="formats"),
    path("file/", file_views.file, name="file"),
    path("import/", file_views.bring_in, name="import"),
    path("start/", views.start_empty, name="start_empty"),
    path("start/back/", views.fill_again, name="fill_again"),
    path("<slug:slug>/new/", views.edit, name="new"),
    path("<slug:slug>/<int:key>/", views.edit, name="edit"),
    path("<slug:slug>/<int:key>/take-out/", views.take_out, name="take_out"),
    path("<slug:slug>/<int:key>/put-back/", views.put_back, name="put_back"),
]
