"""What every place shares. Secrets and the database come from the environment, set by the launcher."""

import os
import sys
from pathlib import Path
from typing import Any

from csp.constants import NONCE, SELF

SERVER = Path(__file__).resolve().parent.parent.parent
ROOT = SERVER.parent
if str(ROOT) not in sys.path:
    sys.path.insert(0, str(ROOT))

SECRET_KEY = os.environ.get("JUBARK_SECRET_KEY", "")
DEBUG = False
ALLOWED_HOSTS = [h for h in os.environ.get("JUBARK_HOSTS", "127.0.0.1,localhost").split(",") if h]

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.sessions",
    "django.contrib.gis",
    "django.contrib.postgres",
    "django.contrib.staticfiles",
    "rest_framework",
    "django_filters",
    "drf_spectacular",
    "pgtrigger",
    "axes",
    "csp",
    "procrastinate.contrib.django",
    "apps.organisations",
    "apps.sites",
    "apps.plants",
    "apps.inspections",
    "apps.health",
    "apps.work",
    "apps.core_api",
    "apps.exchange",
    "apps.installation",
    "apps.demo",
]
MIDDLEWARE = [
    "config.request_id.RequestIdMiddleware",
    "config.no_store.NoStoreMiddleware",
    "csp.middleware.CSPMiddleware",  # outermost, so that static files and workers carry the policy too
    "django.middleware.security.SecurityMiddleware",
    "config.plain_requests.PlainRequestsMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [SERVER / "templates", ROOT / "web" / "dist"],
        "OPTIONS": {"context_processors": ["csp.context_processors.nonce"]},
    }
]

DATABASES: dict[str, dict[str, Any]] = {
    "default": {
        "ENGINE": "django.contrib.gis.db.backends.postgis",
        "NAME": os.environ.get("JUBARK_DB_NAME", "jubark"),
        "USER": os.environ.get("JUBARK_DB_USER", "jubark"),
        "PASSWORD": os.environ.get("JUBARK_DB_PASSWORD", ""),
        "HOST": os.environ.get("JUBARK_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("JUBARK_DB_PORT", "5432"),
        "ATOMIC_REQUESTS": False,
        # after the database has been restarted, no request meets a dead connection
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {"pool": {"min_size": 1, "max_size": 8, "timeout": 10}},
    }
}
if replica := os.environ.get("JUBARK_DB_REPLICA_HOST"):
    DATABASES["replica"] = {
        **DATABASES["default"],
        "HOST": replica,
        "PORT": os.environ.get("JUBARK_DB_REPLICA_PORT", DATABASES["default"]["PORT"]),
        "TEST": {"MIRROR": "default"},
    }
DATABASE_ROUTERS = ["config.replica.ReplicaRouter"]

AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS: list[dict[str, Any]] = [
    {"NAME": f"django.contrib.auth.password_validation.{v}"}
    for v in ("MinimumLengthValidator", "CommonPasswordValidator")
]
AUTH_PASSWORD_VALIDATORS.append(
    {
        "NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator",
        "OPTIONS": {"user_attributes": ("username", "first_name"), "max_similarity": 0.8},
    }
)
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
AXES_LOCKOUT_CALLABLE = "config.error_pages.locked_out"
AXES_CLIENT_IP_CALLABLE = "apps.organisations.client_address.client_address"
# How many proxies of one's own stand in front. Each adds the address it saw to X-Forwarded-For; what a client
# writes there itself stands further left and is not believed.
TRUSTED_PROXIES = int(os.environ.get("JUBARK_PROXIES", "0"))
WRONG_SIGN_INS_AN_ADDRESS = 40  # across all names, within the time of AXES_COOLOFF_TIME
CSRF_FAILURE_VIEW = "config.error_pages.csrf_failed"
FILE_UPLOAD_PERMISSIONS = 0o600  # photographs are for the application, not for every account of the machine
FILE_UPLOAD_DIRECTORY_PERMISSIONS = 0o700

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_I18N = False
USE_TZ = True

STATIC_URL = "/static/"
STATIC_ROOT = ROOT / "web" / "dist"
STATICFILES_DIRS: list[Path] = []
WHITENOISE_ROOT = ROOT / "web" / "dist"
WHITENOISE_AUTOREFRESH = False
WHITENOISE_USE_FINDERS = False
STORAGES = {
    # named by what they hold: one that is written again is the same
    "default": {"BACKEND": "config.storage.WholeFiles", "OPTIONS": {"allow_overwrite": True}},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
MEDIA_ROOT = Path(os.environ.get("JUBARK_MEDIA", "/nonexistent"))
DATA_UPLOAD_MAX_MEMORY_SIZE = 16 * 1024 * 1024
FILE_UPLOAD_MAX_MEMORY_SIZE = 4 * 1024 * 1024

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30  # a crew may be offline for weeks; the outbox needs the session
CSRF_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'none'"],
        "script-src": [SELF, "'wasm-unsafe-eval'"],
        "worker-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:", "blob:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "manifest-src": [SELF],
        "form-action": [SELF],
        "base-uri": ["'none'"],
        "frame-ancestors": ["'none'"],
    }
}

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["apps.organisations.api.authentication.MemberSession"],
    "DEFAULT_PERMISSION_CLASSES": ["apps.organisations.permissions.IsMember"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["config.json_parsers.StorableJsonParser"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "DEFAULT_FILTER_BACKENDS": ["django_filters.rest_framework.DjangoFilterBackend"],
    "EXCEPTION_HANDLER": "config.api_errors.answer",
    "TEST_REQUEST_DEFAULT_FORMAT": "json",
    "DEFAULT_THROTTLE_RATES": {"core": "1200/min", "link": "30/min"},
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Jubark",
    "DESCRIPTION": "Identifying woody plants by evidence, and the records of every tree of a site.",
    "VERSION": "0.1.0",
    "SERVE_INCLUDE_SCHEMA": False,
    # it is in the repository for everybody; made anew at each request it would be work for whoever asks
    "SERVE_PERMISSIONS": ["apps.organisations.permissions.IsMember"],
    "COMPONENT_SPLIT_REQUEST": True,
    "OAS_VERSION": "3.1.0",
    "POSTPROCESSING_HOOKS": [
        "drf_spectacular.hooks.postprocess_schema_enums",
        "config.api_components.add_records",
        "config.api_components.add_refusals",
    ],
    "ENUM_NAME_OVERRIDES": {
        "RoleEnum": "apps.organisations.models.Role",
        "LifeStageEnum": "jubark_core.records.words.STAGES",
    },
}
# gis.W001 warns of GDAL reading files named by strangers; geometry is only ever read from JSON here.
SILENCED_SYSTEM_CHECKS = ["axes.W006", "gis.W001"]
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"request_id": {"()": "config.request_id.RequestIdFilter"}},
    "formatters": {
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "format": "%(asctime)s %(levelname)s %(name)s %(message)s %(request_id)s",
            "rename_fields": {"asctime": "at", "levelname": "level", "name": "logger"},
        },
        "plain": {"format": "%(levelname)s %(name)s: %(message)s (request %(request_id)s)"},
    },
    "handlers": {
        "console": {
            "class": "logging.StreamHandler",
            "filters": ["request_id"],
            "formatter": os.environ.get("JUBARK_LOG", "plain"),
        }
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {"jubark.requests": {"level": os.environ.get("JUBARK_LOG_REQUESTS", "WARNING")}},
}
