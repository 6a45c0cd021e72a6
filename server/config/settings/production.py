"""Behind a TLS proxy. docs/deploy.md says what the environment must hold."""

import os

from config.settings.base import *  # noqa: F403
from config.settings.base import LOGGING, SILENCED_SYSTEM_CHECKS

SECRET_KEY = os.environ["JUBARK_SECRET_KEY"]
LOGGING["handlers"]["console"]["formatter"] = os.environ.get("JUBARK_LOG", "json")  # type: ignore[index]
LOGGING["loggers"]["jubark.requests"]["level"] = os.environ.get("JUBARK_LOG_REQUESTS", "INFO")  # type: ignore[index]
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_SSL_REDIRECT = True
SECURE_HSTS_SECONDS = 31_536_000
# who watches asks on loopback, without TLS
SECURE_REDIRECT_EXEMPT = [r"^api/(health|ready)/$"]
# what the rest of the domain does is not this application's to decide: no subdomains (W005), no preload
# (W021)
SILENCED_SYSTEM_CHECKS = [*SILENCED_SYSTEM_CHECKS, "security.W005", "security.W021"]
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
CSRF_TRUSTED_ORIGINS = [o for o in os.environ.get("JUBARK_ORIGINS", "").split(",") if o]
