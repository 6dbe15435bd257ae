from web.sky import views
from web.sky.nights import keeper

app_name = "sky"
urlpatterns = keeper.urls(views.page, views.save)
