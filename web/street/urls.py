from web.planner.addresses import addresses
from web.street.views import pages

app_name = "street"
urlpatterns = [
    *addresses(pages, "set"),
]
