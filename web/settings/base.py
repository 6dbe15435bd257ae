"""What every way of running has in common."""

import os
from pathlib import Path

from csp.constants import NONE, SELF

from web.running import log

ROOT = Path(__file__).resolve().parents[2]
VAR = Path(os.environ.get("AIM_VAR", ROOT / "var"))
"""What running leaves behind: databases, collected files, the demo's key. Not in git."""

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "django_htmx",
    "web.ui",
    "web.people",
    "web.kept",
    "web.bag",
    "web.hand",
    "web.planner",
    "web.view",
    "web.street",
    "web.sky",
    "web.cards",
    "web.bench",
    "web.outings",
    "web.drills",
    "web.demo",
    "web.running",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "web.running.log.middleware",
    "web.ui.limits.middleware",
    "web.ui.headers.middleware",
    "django.middleware.gzip.GZipMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "web.people.owners.middleware",
    "django_htmx.middleware.HtmxMiddleware",
    "axes.middleware.AxesMiddleware",
    "web.ui.throttle.middleware",
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
            "builtins": [
                f"web.ui.templatetags.{name}" for name in ("format", "words", "elements", "screens")
            ],
        },
    },
]

AUTH_USER_MODEL = "people.Person"
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in (
        "UserAttributeSimilarityValidator",
        "MinimumLengthValidator",
        "CommonPasswordValidator",
        "NumericPasswordValidator",
    )
] + [{"NAME": "web.people.passwords.NoneOfOurs"}]
LOGIN_URL = "people:sign_in"
LOGIN_REDIRECT_URL = "kept:page"
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 365 * 24 * 3600  # a guest's things live as long as their session

# Ten wrong passwords lock a name from an address, for a quarter of an hour after the tenth.
AXES_FAILURE_LIMIT = 10
AXES_COOLOFF_TIME = 0.25
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_LOCKOUT_CALLABLE = "web.people.views.locked"
AXES_CLIENT_IP_CALLABLE = "web.people.address.of"
AXES_RESET_ON_SUCCESS = True
AXES_ENABLE_ADMIN = False
AXES_VERBOSE = False

SLOW_SECONDS = 2.0
"""Answers that take longer are told of in the log."""
METRICS = False
LOGGING = log.config(as_json=False, level="WARNING")

PROXIES = 0
"""How many proxies of one's own stand in front, whose X-Forwarded-For can be believed."""

SAMPLE_WORLD = "web.demo.world.make"
"""What makes the sample owner's things, on first need."""

CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.db.DatabaseCache",
        "LOCATION": "aim_cache",
        "TIMEOUT": 3600,
    },
}
"""What throttles count in: shared by all processes."""
RATELIMIT_IP_META_KEY = "web.people.address.of"
RATELIMIT_FAIL_OPEN = True

MAIL_IS_SET_UP = False
MAIL_BESIDE = True
"""Whether mail is sent beside the answer, so that no page waits for it."""
EMAIL_BACKEND = "django.core.mail.backends.console.EmailBackend"
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = "aim-still@localhost"

DATA_UPLOAD_MAX_NUMBER_FIELDS = 4000
"""A list of two hundred marks pasted in, each with all that can be said of one."""

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
