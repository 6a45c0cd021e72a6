"""What a serving process serves (config/serve.py); the flora is loaded and warmed before the first
request.
"""

import datetime
import os
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent.parent))

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings.demo")
application = get_wsgi_application()

from apps.core_api.warm import warm  # noqa: E402, after the apps are ready

warm(datetime.datetime.now(tz=datetime.UTC).date())
