"""The application with its sample world, on one machine, for trying it out: ./aim demo."""

import secrets

from web.settings.base import *  # noqa: F403
from web.settings.base import SQLITE_OPTIONS, STATIC_ROOT, VAR

VAR.mkdir(exist_ok=True)
_key_file = VAR / "demo-key"
if not _key_file.exists():
    _key_file.write_text(secrets.token_urlsafe(50))
SECRET_KEY = _key_file.read_text()

DEBUG = False
ALLOWED_HOSTS = ["localhost", "127.0.0.1", "[::1]"]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "demo.sqlite3",
        "OPTIONS": SQLITE_OPTIONS,
        "CONN_MAX_AGE": 600,
    },
}
WHITENOISE_USE_FINDERS = True  # straight from the source folders: nothing to collect
STATIC_ROOT.mkdir(exist_ok=True)
SECURE_CROSS_ORIGIN_OPENER_POLICY = None  # needs https, which a machine's own address has not
