"""Settings. Everything that differs between installations comes from the environment; `./start` sets it."""

from __future__ import annotations

import json
import os
from pathlib import Path

from csp.constants import NONCE, NONE, SELF
from django.core.exceptions import ImproperlyConfigured

from stillpage.behind import static_headers

ROOT = Path(__file__).resolve().parent.parent
VAR = Path(os.environ.get("STILLPAGE_VAR", ROOT / "var"))


def _secret() -> str:
    if secret := os.environ.get("STILLPAGE_SECRET_KEY"):
        return secret
    file = VAR / "secret-key"
    if file.exists():
        return file.read_text().strip()
    raise ImproperlyConfigured(f"Set STILLPAGE_SECRET_KEY, or let ./start write one to {file}.")


SECRET_KEY = _secret()
DEBUG = False

PORT = int(os.environ.get("STILLPAGE_PORT", "8400"))
AUTHORING_HOSTS = os.environ.get("STILLPAGE_AUTHORING_HOSTS", "localhost,127.0.0.1").split(",")
"""The hosts that authors use. Every other host must be that of a public site; see `publishing.serving`."""
PUBLIC_SCHEME = os.environ.get("STILLPAGE_PUBLIC_SCHEME", "http")
PUBLIC_PORT = os.environ.get("STILLPAGE_PUBLIC_PORT", str(PORT))
"""How readers reach the public sites; an empty port stands for the scheme's own."""
ALLOWED_HOSTS = AUTHORING_HOSTS
AUTHORING_ORIGIN = os.environ.get("STILLPAGE_AUTHORING_ORIGIN", f"http://localhost:{PORT}")
"""Where readers sign in."""

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.staticfiles",
    "django_tasks",
    "django_tasks_db",
    "stillpage.trail",
    "stillpage.sites",
    "stillpage.people",
    "stillpage.library",
    "stillpage.written",
    "stillpage.pages",
    "stillpage.publishing",
    "stillpage.exchange",
    "stillpage.outside",
    "stillpage.hosts",
    "stillpage.api",
    "stillpage.operations",
]

MIDDLEWARE = [
    "stillpage.behind.Front",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "stillpage.publishing.serving.PublicSites",
    "stillpage.room.Room",
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "stillpage.behind.NothingKept",
    "stillpage.trail.noting.Whence",
    "stillpage.api.giving_way.GivingWay",
]

ROOT_URLCONF = "stillpage.urls"
WSGI_APPLICATION = "stillpage.wsgi.application"
TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("STILLPAGE_DB_NAME", "stillpage"),
        "USER": os.environ.get("STILLPAGE_DB_USER", "root"),
        "PASSWORD": os.environ.get("STILLPAGE_DB_PASSWORD", ""),
        "HOST": os.environ.get("STILLPAGE_DB_SOCKET", str(VAR / "mariadb.run" / "socket")),
        "CONN_MAX_AGE": 600,
        "OPTIONS": {
            "charset": "utf8mb4",
            "connect_timeout": 3,
            "read_timeout": 20,
            "write_timeout": 20,
            "init_command": "SET sql_mode='STRICT_TRANS_TABLES', innodb_lock_wait_timeout=10",
        },
        "TEST": {"CHARSET": "utf8mb4", "COLLATION": "utf8mb4_uca1400_ai_ci"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "people.Person"
AUTHENTICATION_BACKENDS = ["django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 12}},
    {"NAME": "stillpage.people.passwords.NotTooLong"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "stillpage.people.passwords.NotShipped"},
    {"NAME": "stillpage.people.passwords.HardToGuess"},
]

FRONT = os.environ.get("STILLPAGE_FRONT", "none") != "none"
"""Whether our own front server (`ops.front`) stands before this process, and nothing else can reach it."""
FRONT_PAGES = VAR / "front" / "pages"
"""Where it keeps pages for a second; see `publishing.front`."""
HTTPS = os.environ.get("STILLPAGE_HTTPS") == "1"
SESSION_ENGINE = "stillpage.people.sessions"
SESSION_COOKIE_AGE = int(os.environ.get("STILLPAGE_SESSION_HOURS", "12")) * 3600
"""How long a session lasts, in seconds, however much it is used (OWASP ASVS 4.0.3, 3.3.2)."""
SESSION_IDLE = int(os.environ.get("STILLPAGE_SESSION_IDLE_MINUTES", "120")) * 60
"""After how many seconds without a request a session ends."""
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
COOKIE_PREFIX = "__Host-" if HTTPS else ""
"""Browsers take a cookie of such a name only over TLS, for just this host and all of it (RFC 6265bis, 4.1.3.2)."""
SESSION_COOKIE_NAME = f"{COOKIE_PREFIX}session"
CSRF_COOKIE_NAME = f"{COOKIE_PREFIX}csrftoken"
DEVICE_COOKIE_NAME = f"{COOKIE_PREFIX}device"
READER_COOKIE_NAME = f"{COOKIE_PREFIX}reader"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if HTTPS else None
SECURE_SSL_REDIRECT = HTTPS
SECURE_HSTS_SECONDS = 31_536_000 if HTTPS else 0
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "SAMEORIGIN"
CSRF_FAILURE_VIEW = "stillpage.api.failures.csrf_failure"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF, NONCE],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:", "blob:"],
        "font-src": [SELF],
        "media-src": [SELF, "blob:"],
        "connect-src": [SELF],
        "frame-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [SELF],
        "object-src": [NONE],
    }
}

STATIC_URL = "/static/"
STATIC_ROOT = VAR / "static"
STATICFILES_DIRS = [("theme", ROOT / "theme"), ("app", ROOT / "web" / "dist")]
WEB_INDEX = ROOT / "web" / "dist" / "index.html"
LIVE_STAMP = VAR / "live.stamp"
"""A file of numbers that move on when what readers get changes; see `publishing.page_memory`."""
MEDIA_URL = "/media/"
MEDIA_ROOT = VAR / "media"
STORAGES = {
    "default": {
        "BACKEND": os.environ.get("STILLPAGE_STORAGE", "stillpage.library.storage.WholeFiles"),
        "OPTIONS": json.loads(os.environ.get("STILLPAGE_STORAGE_OPTIONS", "{}")),
    },
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedManifestStaticFilesStorage"},
}
if os.environ.get("STILLPAGE_DEV") == "1":
    # Stylesheets, fonts and the interface as they stand in the source tree, at each request (`./start --dev`).
    STORAGES["staticfiles"] = {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}
    WHITENOISE_USE_FINDERS = WHITENOISE_AUTOREFRESH = True
WHITENOISE_ADD_HEADERS_FUNCTION = static_headers
WHITENOISE_IMMUTABLE_FILE_TEST = r"(^/static/app/assets/)|(\.[0-9a-f]{12}\.)"

_MB = 1024 * 1024
UPLOAD_LIMIT = int(os.environ.get("STILLPAGE_UPLOAD_LIMIT", str(64 * _MB)))
"""The largest picture that is taken, in bytes."""
DOCUMENT_LIMIT = int(os.environ.get("STILLPAGE_DOCUMENT_LIMIT", str(2048 * _MB)))
"""The largest document that is taken, in bytes. Documents come in pieces, so memory does not matter here."""
PAGE_FILM_LIMIT = int(os.environ.get("STILLPAGE_PAGE_FILM_LIMIT", str(10 * _MB)))
"""What a film of a page is to have at most as readers load it; larger ones are told."""
FILM_LIMIT = int(os.environ.get("STILLPAGE_FILM_LIMIT", str(2048 * _MB)))
"""The largest film or sound that is taken, in bytes; what is made of one may be twice as large."""
FILM_SECONDS = int(os.environ.get("STILLPAGE_FILM_SECONDS", str(2 * 3600)))
FILM_MEMORY = int(os.environ.get("STILLPAGE_FILM_MEMORY", str(3072 * _MB)))
"""The most seconds of computing, and bytes of memory, that may go into one file made of a film."""
HEAVY = int(os.environ.get("STILLPAGE_HEAVY", str(5 * _MB)))
"""From how many bytes on a document is too heavy for readers to load without thinking."""
UPLOAD_FOLDER = VAR / "uploads"
RESERVE = int(os.environ.get("STILLPAGE_RESERVE_MB", "256")) * _MB
LAST_RESERVE = RESERVE // 4
"""Bytes that are to stay free on the disk: below the first only texts are saved, below the last nothing is."""
BACKUP_FOLDER = os.environ.get("STILLPAGE_BACKUP_FOLDER", "")
"""Where a backup is made every night; empty for none."""
BACKUP_HOUR = int(os.environ.get("STILLPAGE_BACKUP_HOUR", "2"))
BACKUPS_KEPT = int(os.environ.get("STILLPAGE_BACKUPS_KEPT", "14"))
BACKUP_DAYS = int(os.environ.get("STILLPAGE_BACKUP_DAYS", "60"))
"""The hour (UTC) from which on it is made, how many are kept, and for how many days at most."""
BACKUP_RECIPIENT = os.environ.get("STILLPAGE_BACKUP_RECIPIENT", "")
"""Whom backups are encrypted for by age, a public key; empty to leave them readable."""
SET_ASIDE = VAR / "set-aside"
"""Where files of the library go that no row of the database tells of."""
"""Where files are kept while they come in. On the disk of the media folder nothing is copied when they are whole."""
UPLOAD_PIECE = 8 * _MB
"""The largest piece in which a file is sent, in bytes."""

COMPUTING_SECONDS = float(os.environ.get("STILLPAGE_COMPUTING_SECONDS", "10"))
COMPUTING_STEPS = int(os.environ.get("STILLPAGE_COMPUTING_STEPS", "3000000"))
"""What one text that comes in, is checked or goes out may take: seconds of the processor, and steps of the core."""
LIMITS = os.environ.get("STILLPAGE_LIMITS", "on") != "off"
"""Whether it is counted how often somebody asks for what costs much; see `api.limits`."""
COMMONS = os.environ.get("STILLPAGE_COMMONS", "")
"""The address of a commons of freely licensed pictures; without one none is offered."""
FILMS = os.environ.get("STILLPAGE_FILMS", "")
"""The address of the host of films that the demo shows films from."""
POSTS = os.environ.get("STILLPAGE_POSTS", "")
"""The address of the network that the demo shows posts from."""
OUTSIDE_ALLOWED = [each for each in os.environ.get("STILLPAGE_OUTSIDE_ALLOWED", "").split(",") if each]
"""Hosts with port (“127.0.0.1:8411”) that may be fetched from although they stand in a private network."""
OUTSIDE_SECONDS = float(os.environ.get("STILLPAGE_OUTSIDE_SECONDS", "8"))
"""How long an outside server may take to connect, or to send the next bytes."""
OUTSIDE_LONGEST = float(os.environ.get("STILLPAGE_OUTSIDE_LONGEST", "60"))
"""How long a whole file from outside may take, in seconds."""

TASKS = {
    "default": {
        "BACKEND": os.environ.get("STILLPAGE_TASKS", "django_tasks_db.DatabaseBackend"),
        "QUEUES": ["default", "outside"],
        "OPTIONS": {},
    }
}
"""The queue of the background work. A broker is a setting: see docs/library.md."""
if str(TASKS["default"]["BACKEND"]).startswith("django_tasks_rq."):
    INSTALLED_APPS += ["django_rq"]
    RQ_QUEUES = {"default": {"URL": os.environ.get("STILLPAGE_BROKER", "redis://127.0.0.1:6379/0")}}
IMPORT_LIMIT = int(os.environ.get("STILLPAGE_IMPORT_LIMIT", str(256 * 1024 * 1024)))
"""The most that is taken in one import, in bytes."""
DATA_UPLOAD_MAX_MEMORY_SIZE = 24 * 1024 * 1024
"""The largest request without files, in bytes: a page, or what is pasted with pictures written into it."""
DATA_UPLOAD_MAX_NUMBER_FILES = 2000
DATA_UPLOAD_MAX_NUMBER_FIELDS = 4000
FILE_UPLOAD_HANDLERS = [
    "stillpage.library.receiving.Limit",
    "django.core.files.uploadhandler.TemporaryFileUploadHandler",
]
FILE_UPLOAD_TEMP_DIR = None

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_TZ = True
USE_I18N = False

TRAIL_LOG = os.environ.get("STILLPAGE_TRAIL_LOG", str(VAR / "trail.log"))
"""The file into which the audit trail goes besides the database, a line of JSON for each entry."""
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {
        "line": {"format": "%(asctime)s %(levelname)s %(name)s: %(message)s"},
        "bare": {"format": "%(message)s"},
    },
    "filters": {"outages": {"()": "stillpage.outages.OneLineOfOutages"}},
    "handlers": {
        "console": {"class": "logging.StreamHandler", "formatter": "line", "filters": ["outages"]},
        "trail": {
            "class": "logging.handlers.WatchedFileHandler",
            "filename": TRAIL_LOG,
            "delay": True,
            "formatter": "bare",
        },
    },
    "loggers": {"stillpage.trail": {"handlers": ["trail"], "level": "INFO", "propagate": False}},
    "root": {"handlers": ["console"], "level": os.environ.get("STILLPAGE_LOG_LEVEL", "WARNING")},
}
