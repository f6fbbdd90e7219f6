"""Settings, all from the environment; `./start` and `./test` fill it."""

import os
import sys
from pathlib import Path

from django.core.exceptions import ImproperlyConfigured

BASE = Path(__file__).resolve().parents[1]
ROOT = BASE.parent

SECRET_KEY = os.environ.get("YOSHI_SECRET_KEY", "only-for-tests" if "pytest" in sys.modules else "")
if not SECRET_KEY:
    raise ImproperlyConfigured("YOSHI_SECRET_KEY is not set. ./start makes one and keeps it; there is no default to fall back on.")
DEBUG = False
ALLOWED_HOSTS = os.environ.get("YOSHI_HOSTS", "127.0.0.1,localhost,testserver").split(",")
_PORT = os.environ.get("YOSHI_PORT", "8420")
CSRF_TRUSTED_ORIGINS = [f"http://{host}:{_PORT}" for host in ALLOWED_HOSTS]
if os.environ.get("YOSHI_HTTPS") == "1":
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_HSTS_SECONDS = 31_536_000

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "yoshi_server",
    "accounts",
    "systems",
    "cylinders",
    "instruments",
    "jobs",
    "records",
    "demo",
]

MIDDLEWARE = [
    "yoshi_server.middleware.security_headers",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
]

ROOT_URLCONF = "yoshi_server.urls"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": []},
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "HOST": os.environ.get("YOSHI_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("YOSHI_DB_PORT", "3306"),
        "NAME": os.environ.get("YOSHI_DB_NAME", "yoshi"),
        "USER": os.environ.get("YOSHI_DB_USER", "yoshi"),
        "PASSWORD": os.environ.get("YOSHI_DB_PASSWORD", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "isolation_level": "read committed",
            "init_command": "SET sql_mode='STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION'",
        },
        "TEST": {"NAME": f"test_yoshi{os.environ.get('YOSHI_TEST_SUFFIX', '')}", "CHARSET": "utf8mb4"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_USER_MODEL = "accounts.Person"

SESSION_COOKIE_AGE = 60 * 60 * 24 * 30
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_HTTPONLY = True
CSRF_COOKIE_SAMESITE = "Lax"
X_FRAME_OPTIONS = "DENY"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
DATA_UPLOAD_MAX_MEMORY_SIZE = 5_000_000

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
USE_I18N = False

STATIC_URL = "/static/"
WEB_DIST = Path(os.environ.get("YOSHI_WEB_DIST", ROOT / "web" / "dist"))
TYPEFACE = ROOT / "web/node_modules/@fontsource-variable/archivo/files/archivo-latin-wght-normal.woff2"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.exists() else None
WHITENOISE_INDEX_FILE = False
LOGIN_RATE = os.environ.get("YOSHI_LOGIN_RATE", "30/m")

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
