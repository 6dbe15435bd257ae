"""What every way of running has in common."""

import os
from pathlib import Path

from csp.constants import NONE, SELF

ROOT = Path(__file__).resolve().parents[2]
VAR = Path(os.environ.get("AIM_VAR", ROOT / "var"))
"""What running leaves behind: databases, collected files, the demo's key. Not in git."""

INSTALLED_APPS = [
    "django.contrib.staticfiles",
    "csp",
    "django_htmx",
    "web.ui",
    "web.view",
    "web.demo",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django_htmx.middleware.HtmxMiddleware",
]

ROOT_URLCONF = "web.urls"
WSGI_APPLICATION = "web.wsgi.application"

TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "web.ui.preferences.context",
            ],
            "builtins": ["web.ui.templatetags.format", "web.ui.templatetags.elements"],
        },
    },
]

DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

SQLITE_OPTIONS = {
    # Without IMMEDIATE, writers at once lose updates to "database is locked".
    "transaction_mode": "IMMEDIATE",
    "init_command": (
        "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL; "
        "PRAGMA busy_timeout=5000; PRAGMA foreign_keys=ON;"
    ),
}

LANGUAGE_CODE = "en-gb"
USE_I18N = False
USE_TZ = True
TIME_ZONE = "UTC"

STATIC_URL = "static/"
STATIC_ROOT = VAR / "static"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "img-src": [SELF, "data:"],
        "object-src": [NONE],
        "frame-ancestors": [NONE],
        "base-uri": [SELF],
        "form-action": [SELF],
    },
}
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "web.ui.errors.csrf_failure"
