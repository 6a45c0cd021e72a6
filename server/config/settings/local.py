"""On one machine, on loopback, without TLS: the demonstration, and an installation behind no proxy."""

import os

from config.settings.base import *  # noqa: F403

SECRET_KEY = os.environ["JUBARK_SECRET_KEY"]
