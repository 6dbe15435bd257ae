from django.urls import path

from web.planner.addresses import addresses
from web.sky import card_views, walk_views
from web.sky.views import pages

app_name = "sky"
urlpatterns = [
    *addresses(pages, "night"),
    path("walk/", walk_views.page, name="walk"),
    path("night/<int:key>/walk/", walk_views.page, name="kept_walk"),
    path("card/", card_views.page, name="card"),
    path("card.pdf", card_views.as_pdf, name="card_pdf"),
    path("night/<int:key>/card/", card_views.page, name="kept_card"),
    path("night/<int:key>/card.pdf", card_views.as_pdf, name="kept_card_pdf"),
]
