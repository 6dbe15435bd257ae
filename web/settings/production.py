"""For a server of one's own, all of it from the environment."""

import dj_database_url

from web.settings import env
from web.settings.base import *  # noqa: F403
from web.settings.base import SQLITE_OPTIONS, VAR

SECRET_KEY = env.text("AIM_SECRET_KEY")
DEBUG = False
ALLOWED_HOSTS = env.words("AIM_HOSTS")
CSRF_TRUSTED_ORIGINS = env.words("AIM_ORIGINS")

DATABASES = {
    "default": dj_database_url.parse(
        env.text("AIM_DATABASE_URL", f"sqlite:///{VAR / 'aim.sqlite3'}"), conn_max_age=600
    ),
}
if DATABASES["default"]["ENGINE"] == "django.db.backends.sqlite3":
    DATABASES["default"]["OPTIONS"] = SQLITE_OPTIONS

STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedManifestStaticFilesStorage"},
}

SECURE_SSL_REDIRECT = env.truth("AIM_REDIRECT_TO_HTTPS", default=True)
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = env.number("AIM_HSTS_SECONDS", 31_536_000)
SECURE_HSTS_INCLUDE_SUBDOMAINS = True
SECURE_HSTS_PRELOAD = True
CSRF_COOKIE_SECURE = True
SESSION_COOKIE_SECURE = True
PROXIES = env.number("AIM_PROXIES", 0)

if env.text("AIM_MAIL_HOST", "-") != "-":
    EMAIL_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
    EMAIL_HOST = env.text("AIM_MAIL_HOST")
    EMAIL_PORT = env.number("AIM_MAIL_PORT", 587)
    EMAIL_HOST_USER = env.text("AIM_MAIL_USER", "-").removeprefix("-")
    EMAIL_HOST_PASSWORD = env.text("AIM_MAIL_PASSWORD", "-").removeprefix("-")
    EMAIL_USE_TLS = env.truth("AIM_MAIL_TLS", default=True)
DEFAULT_FROM_EMAIL = env.text("AIM_MAIL_FROM", DEFAULT_FROM_EMAIL)
