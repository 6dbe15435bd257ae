from django.contrib.auth.views import LogoutView
from django.urls import path
from django.views.decorators.http import require_http_methods

from web.people import account_views, views

app_name = "people"
form = require_http_methods(["GET", "HEAD", "POST"])  # others would count as sent
urlpatterns = [
    path("", views.preferences, name="preferences"),
    path("sign-in/", form(views.SignIn.as_view()), name="sign_in"),
    path("sign-out/", LogoutView.as_view(next_page="view:page"), name="sign_out"),
    path("export/", account_views.export, name="export"),
    path("mail/", account_views.mail, name="mail"),
    path("delete/", account_views.delete, name="delete"),
    path("privacy/", views.Privacy.as_view(), name="privacy"),
    path("join/", views.join, name="join"),
    path("password/", form(views.ChangePassword.as_view()), name="password"),
    path("reset/", form(views.ResetPassword.as_view()), name="reset"),
    path("reset/<uidb64>/<token>/", form(views.SetPassword.as_view()), name="set_password"),
    path(
        "reset/sent/",
        views.Said.as_view(
            heading="Look in your mail",
            text="If an account has that address, a link to set a new password is on its way.",
        ),
        name="reset_sent",
    ),
    path(
        "mail/changed/",
        views.Said.as_view(heading="The mail address is kept", text="It is used for resets only."),
        name="mail_changed",
    ),
    path(
        "deleted/",
        views.Said.as_view(heading="All of it is deleted", text="You are a guest like any other."),
        name="deleted",
    ),
    path(
        "password/changed/",
        views.Said.as_view(heading="The password is changed", text="Use the new one from now on."),
        name="password_changed",
    ),
]
