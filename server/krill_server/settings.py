"""Settings: secrets and the database come from the environment, with safe defaults for a machine of one's own."""

import os
import re
import secrets
from pathlib import Path

from krill_server.environment import Environment

ROOT = Path(__file__).resolve().parents[2]
RUN = ROOT / ".run"
DIST = ROOT / "web" / "dist"
TOLD = Environment.read()


def _secret() -> str:
    """KRILL_SECRET, or a key of this checkout's own, made once and readable by its owner only."""
    if TOLD.secret:
        return TOLD.secret
    RUN.mkdir(exist_ok=True)
    kept = RUN / "secret"
    if not kept.exists():
        kept.touch(mode=0o600)
        kept.write_text(secrets.token_urlsafe(48))
    return kept.read_text()


SECRET_KEY = _secret()
DEBUG = False
# whoever watches a server asks it on its own machine
ALLOWED_HOSTS = [*dict.fromkeys([*TOLD.hosts, "127.0.0.1", "localhost"])]
HTTPS = TOLD.https
PROXIES = TOLD.proxies
# what one person may have
MOST_BUILDS, MOST_RUNS, MOST_MB, MOST_STUDIES = TOLD.most_builds, TOLD.most_runs, TOLD.most_mb, TOLD.most_studies
# the socket of the solver processes; without one long questions are worked out by the server itself
SOLVERS = os.environ.get("KRILL_SOLVERS", "")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "procrastinate.contrib.django",
    "axes",
    "krill_server",
    "accounts",
    "builds",
    "live",
    "runs",
    "shelf",
    "sheets",
    "studies",
]
MIDDLEWARE = [
    "krill_server.threads.in_roomy_thread",
    "krill_server.log_lines.log_requests",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "krill_server.security_policy.content_security_policy",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "krill_server.bodies.refuse_bodies",
    "accounts.sessions.note_seen",
    "krill_server.failures.refuse_methods",
    "wire.turns.know_who_asks",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "krill_server.urls"
WSGI_APPLICATION = "krill_server.wsgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True, "DIRS": [DIST]}]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("PGHOST", "127.0.0.1"),
        "PORT": os.environ.get("PGPORT", "5432"),
        "USER": os.environ.get("PGUSER", "krill"),
        "PASSWORD": os.environ.get("PGPASSWORD", ""),
        "NAME": os.environ.get("PGDATABASE", "krill"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {"connect_timeout": 5},
        "ATOMIC_REQUESTS": False,
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
# a sign-in takes a third of a second of one core, and older hashes are made anew at it
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.ScryptPasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
AXES_LOCKOUT_CALLABLE = "krill_server.failures.locked_out"
AXES_CLIENT_IP_CALLABLE = "wire.addresses.address_of"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
CSRF_TRUSTED_ORIGINS = TOLD.origins
if HTTPS:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_SSL_REDIRECT = True
    SECURE_REDIRECT_EXEMPT = [r"^(healthz|readyz|metrics)$"]
    SECURE_HSTS_SECONDS = 365 * 24 * 3600
    SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = True
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
DATA_UPLOAD_MAX_MEMORY_SIZE = 60 * 1024 * 1024

STATIC_URL = "/static/"
STATICFILES_DIRS = [DIST] if DIST.exists() else []
STATIC_ROOT = RUN / "static"
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:
    """Vite has hashed these names."""
    return bool(re.search(r"/assets/.+-[\w-]{8}\.\w+$", url))


USE_TZ = True
TIME_ZONE = "UTC"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"lines": {"()": "krill_server.log_lines.JsonLines"}},
    "handlers": {"console": {"class": "logging.StreamHandler", **({"formatter": "lines"} if TOLD.log else {})}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {"krill.access": {"level": "INFO" if TOLD.log else "ERROR"}},
}
