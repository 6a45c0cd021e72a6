"""A password for a command: from the environment or asked for, never from the command line, where every
account of the machine could read it.
"""

from __future__ import annotations

import getpass
import os


def asked_password() -> str:
    """$JUBARK_PASSWORD, or what is typed."""
    return os.environ.get("JUBARK_PASSWORD") or getpass.getpass("Password: ")
