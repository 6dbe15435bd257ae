"""For the test suite: nothing kept, nothing outside."""

import os

import dj_database_url

from web.settings.base import *  # noqa: F403
from web.settings.base import SQLITE_OPTIONS, STATIC_ROOT, VAR

VAR.mkdir(exist_ok=True)

SECRET_KEY = "for tests only"
DEBUG = False
ALLOWED_HOSTS = ["testserver", "localhost", "127.0.0.1"]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "test.sqlite3",
        "OPTIONS": SQLITE_OPTIONS,
        "CONN_MAX_AGE": 600,
        # A file, so that the browser tests' server thread sees what the test wrote.
        "TEST": {"NAME": VAR / "test.sqlite3"},
    },
}
if _URL := os.environ.get("AIM_TEST_DATABASE_URL"):  # ./aim test --postgres
    DATABASES = {"default": dict(dj_database_url.parse(_URL))}

STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
WHITENOISE_USE_FINDERS = True
STATIC_ROOT.mkdir(exist_ok=True)
TEST_RUNNER = "tests.runner.CountingRunner"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]  # fast, and only here
MAIL_IS_SET_UP, MAIL_BESIDE = True, False
RATELIMIT_ENABLE = False  # but where it is what is tested
CACHES = {"default": {"BACKEND": "django.core.cache.backends.locmem.LocMemCache"}}
EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "loggers": {name: {"level": "CRITICAL"} for name in ("axes", "aim", "django")},
}
