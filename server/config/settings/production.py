"""Behind a TLS proxy. docs/deploy.md says what the environment must hold."""

import os

from config.settings.base import *  # noqa: F403

SECRET_KEY = os.environ["JUBARK_SECRET_KEY"]
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_SSL_REDIRECT = True
SECURE_HSTS_SECONDS = 31_536_000
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
CSRF_TRUSTED_ORIGINS = [o for o in os.environ.get("JUBARK_ORIGINS", "").split(",") if o]
