"""The demonstration on one machine, on loopback, without TLS."""

import os

from config.settings.base import *  # noqa: F403

SECRET_KEY = os.environ["JUBARK_SECRET_KEY"]
