"""Settings, all from the environment; `./start` and `./test` fill it."""

import sys
from pathlib import Path

from csp.constants import NONE, SELF, UNSAFE_INLINE, WASM_UNSAFE_EVAL
from django.core.exceptions import ImproperlyConfigured
from environ import Env

from yoshi_server.logs import logs

BASE = Path(__file__).resolve().parents[1]
ROOT = BASE.parent
env = Env()

SECRET_KEY = env("YOSHI_SECRET_KEY", default="only-for-tests" if "pytest" in sys.modules else "")
if not SECRET_KEY:
    raise ImproperlyConfigured("YOSHI_SECRET_KEY is not set. ./start makes one and keeps it; there is no default to fall back on.")
DEBUG = False
ALLOWED_HOSTS = env.list("YOSHI_HOSTS", default=["127.0.0.1", "localhost", "testserver"])
_PORT = env.int("YOSHI_PORT", default=8420)
PUBLIC_URL = env("YOSHI_URL", default=f"http://127.0.0.1:{_PORT}").rstrip("/")  # what links in mails begin with
CSRF_TRUSTED_ORIGINS = [PUBLIC_URL, *(f"http://{host}:{_PORT}" for host in ALLOWED_HOSTS)]
if env.bool("YOSHI_HTTPS", default=False):
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")  # the proxy sets it, and takes away what others claim
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_HSTS_SECONDS = 31_536_000

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django_otp",
    "django_otp.plugins.otp_totp",
    "django_otp.plugins.otp_static",
    "yoshi_server",
    "tasks",
    "accounts",
    "systems",
    "cylinders",
    "instruments",
    "jobs",
    "cards",
    "records",
    "practice",
    "demo",
]

MIDDLEWARE = [
    "yoshi_server.middleware.asked",
    "yoshi_server.middleware.in_time",
    "yoshi_server.middleware.more_headers",
    "csp.middleware.CSPMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",  # its files are compressed already; squeezed again, "not modified" would have a body
    "django.middleware.gzip.GZipMiddleware",
    "yoshi_server.middleware.only_known_bodies",
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
        "HOST": env("YOSHI_DB_HOST", default="127.0.0.1"),
        "PORT": env.int("YOSHI_DB_PORT", default=3306),
        "NAME": env("YOSHI_DB_NAME", default="yoshi"),
        "USER": env("YOSHI_DB_USER", default="yoshi"),
        "PASSWORD": env("YOSHI_DB_PASSWORD", default=""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "isolation_level": "read committed",
            "init_command": "SET sql_mode='STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION'",
        },
        "TEST": {"NAME": f"test_yoshi{env('YOSHI_TEST_SUFFIX', default='')}", "CHARSET": "utf8mb4"},
    }
}
NODES = env.list("YOSHI_DB_NODES", default=[])  # host:port of each node of a cluster, the nearest first
if NODES:
    _options: dict[str, object] = DATABASES["default"]["OPTIONS"]
    _options["nodes"] = [(host, int(port)) for host, _, port in (node.partition(":") for node in NODES)]
    _options["connect_timeout"] = 2
    _options["init_command"] = f"{_options['init_command']}, wsrep_sync_wait=1"  # what was just written elsewhere is read here
    DATABASES["default"]["ENGINE"] = "yoshi_server.cluster"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_USER_MODEL = "accounts.Person"

SESSION_ENGINE = "accounts.sessions"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 7
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_HTTPONLY = True
CSRF_COOKIE_SAMESITE = "Lax"
X_FRAME_OPTIONS = "DENY"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF, WASM_UNSAFE_EVAL],  # Python in the browser is WebAssembly; no text becomes a script by it
        "style-src": [SELF, UNSAFE_INLINE],
        "img-src": [SELF, "data:"],
        "font-src": [SELF, "data:"],
        "connect-src": [SELF],
        "worker-src": [SELF],
        "object-src": [NONE],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}
DATA_UPLOAD_MAX_MEMORY_SIZE = 5_000_000

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
USE_I18N = False

STATIC_URL = "/static/"
WEB_DIST = Path(env("YOSHI_WEB_DIST", default=str(ROOT / "web" / "dist")))
TYPEFACE = ROOT / "web/node_modules/@fontsource-variable/archivo/files/archivo-latin-wght-normal.woff2"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.exists() else None
WHITENOISE_INDEX_FILE = False
# What has its content's hash in its name never changes under that name.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/(assets/.+-[A-Za-z0-9_-]{8}\.[a-z0-9]+|engine/[0-9a-f]{12}/.+)$"
PROXIES = env.int(
    "YOSHI_PROXIES", default=0
)  # how many reverse proxies stand before this server; what others claim to have seen is not believed
NINJA_NUM_PROXIES = PROXIES
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher", "django.contrib.auth.hashers.PBKDF2PasswordHasher"]

EMAIL_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
EMAIL_HOST = env("YOSHI_MAIL_HOST", default="127.0.0.1")
EMAIL_PORT = env.int("YOSHI_MAIL_PORT", default=25)
EMAIL_HOST_USER = env("YOSHI_MAIL_USER", default="")
EMAIL_HOST_PASSWORD = env("YOSHI_MAIL_PASSWORD", default="")
EMAIL_USE_TLS = env.bool("YOSHI_MAIL_TLS", default=False)
EMAIL_TIMEOUT = 20
DEFAULT_FROM_EMAIL = env("YOSHI_MAIL_FROM", default="yoshi@localhost")
OTP_TOTP_ISSUER = "Yoshi"
TASKS = {  # who does what no request waits for
    "mail": "tasks.mail.deliver",
    "import_systems": "systems.actions.import_csv.work",
    "import_log": "instruments.actions.log_csv.work",
    "paper": "records.papers.work",
    "practice_debrief": "practice.debriefing.work",
    "import_cylinders": "cylinders.actions.import_csv.work",
}
HOURLY = ["accounts.pruning.prune", "jobs.naming.name_missing", "practice.pruning.prune"]

METRICS_TOKEN = env("YOSHI_METRICS_TOKEN", default="")
LOG_DIR = env("YOSHI_LOG_DIR", default="")  # where errors and slow statements are kept too, for a shop to send
LOGGING = logs(LOG_DIR, plain=env("YOSHI_LOG", default="plain") == "plain")
