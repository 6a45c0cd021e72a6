#!/usr/bin/env python3
"""Django's command line. `./jubark` sets the environment and calls this."""

import os
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))  # jubark_core lies beside server/


def main() -> None:
    """Run one management command."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings.local")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()
