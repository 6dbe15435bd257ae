"""The application with its sample world, on one machine, for trying it out: ./aim demo."""

from web.settings import env
from web.settings.base import *  # noqa: F403
from web.settings.base import SQLITE_OPTIONS, STATIC_ROOT, VAR

env.keep_private()
env.folder(VAR)
SECRET_KEY = env.key_in(VAR / "demo-key")

DEBUG = False
ALLOWED_HOSTS = ["localhost", "127.0.0.1", "[::1]", *env.words("AIM_LAN_HOST")]
"""The last is for ./aim demo --lan."""
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "demo.sqlite3",
        "OPTIONS": SQLITE_OPTIONS,
        "CONN_MAX_AGE": 600,
    },
}
WHITENOISE_USE_FINDERS = True  # straight from the source folders: nothing to collect
env.folder(STATIC_ROOT)
SECURE_CROSS_ORIGIN_OPENER_POLICY = None  # needs https, which a machine's own address has not
