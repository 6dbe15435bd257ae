"""Addresses of outings."""

from django.urls import path

from web.outings import files_views, frame_views, learnt_views, snapshot_views, there_views, views

app_name = "outings"
urlpatterns = [
    path("", views.page, name="page"),
    path("new/", views.new, name="new"),
    path("snapshot/", snapshot_views.snapshot, name="snapshot"),
    path("snapshot/read/", snapshot_views.read_file, name="read"),
    path("learnt/", learnt_views.page, name="learnt"),
    path("learnt/accept/", learnt_views.accept, name="accept"),
    path("frames/<int:key>/", frame_views.frame, name="frame"),
    path("frames/<int:key>/say/", frame_views.say, name="say"),
    path("frames/<int:key>.jpg", frame_views.small, name="small"),
    path("<int:key>/", views.outing, name="outing"),
    path("<int:key>/change/", views.change, name="change"),
    path("<int:key>/gather/", views.gather, name="gather"),
    path("<int:key>/delete/", views.delete, name="delete"),
    path("<int:key>/restore/", views.restore, name="restore"),
    path("<int:key>/again/", views.again, name="again"),
    path("<int:key>/sheet/", views.sheet, name="sheet"),
    path("<int:key>/sheet.pdf", views.pdf, name="pdf"),
    path("<int:key>/there/", there_views.there, name="there"),
    path("<int:key>/log.json", there_views.heard, name="heard"),
    path("<int:key>/log/", there_views.logged, name="logged"),
    path("<int:key>/settle/", there_views.settle, name="settle"),
    path("<int:key>/after/", files_views.after, name="after"),
    path("<int:key>/frames/", files_views.frames, name="frames"),
    path("<int:key>/known/", files_views.known, name="known"),
    path("<int:key>/take/", files_views.take_in, name="take"),
    path("<int:key>/tell/", files_views.tell, name="tell"),
    path("<int:key>/belongs/", files_views.belongs, name="belongs"),
    path("<int:key>/clock/", files_views.clock, name="clock"),
    path("<int:key>/out.<slug:ending>", files_views.out, name="out"),
]
