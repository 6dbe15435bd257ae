from web.street import views
from web.street.sets import keeper

app_name = "street"
urlpatterns = keeper.urls(views.page, views.save)
