"""What a serving process serves (config/serve.py); the flora is read before the first request."""

import os
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent.parent))

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings.local")
application = get_wsgi_application()

from jubark_core.flora.load import shipped_flora  # noqa: E402, found by the path above

shipped_flora()
