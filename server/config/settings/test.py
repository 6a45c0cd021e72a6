"""The tests: a throw-away cluster, fast hashes, files in a folder that goes with the run."""

import atexit
import shutil
import tempfile
from pathlib import Path

from config.settings.base import *  # noqa: F403
from config.settings.base import DATABASES, MIDDLEWARE, REST_FRAMEWORK

SECRET_KEY = "tests only"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
MEDIA_ROOT = Path(tempfile.mkdtemp(prefix="jubark-test-media-"))
atexit.register(shutil.rmtree, MEDIA_ROOT, ignore_errors=True)
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
AXES_ENABLED = False
TEST_RUNNER = "tests.runner.LaneRunner"
MIDDLEWARE.insert(
    MIDDLEWARE.index("django.contrib.sessions.middleware.SessionMiddleware"),
    "tests.as_application.AsApplication",
)
REST_FRAMEWORK["DEFAULT_THROTTLE_RATES"] = {"core": None, "link": None}  # a test of its own sets one
# The live server of the browser tests runs in threads of the test's own process: no pool, so that no
# connection outlives its test; a thread keeps its own while its browser keeps the line open.
DATABASES["default"]["OPTIONS"] = {}
DATABASES["default"]["CONN_MAX_AGE"] = None
DATABASES["default"]["CONN_HEALTH_CHECKS"] = False
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "loggers": {
        "axes": {"level": "CRITICAL"},
        "django.request": {"level": "CRITICAL"},
        "django.security": {"level": "CRITICAL"},
        "django.contrib.gis": {"level": "CRITICAL"},
    },
}
