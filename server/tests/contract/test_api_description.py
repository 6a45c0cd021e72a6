"""The committed API description is what the code says."""

import io
from pathlib import Path

from django.core.management import call_command
from django.test import SimpleTestCase

SCHEMA = Path(__file__).resolve().parents[3] / "openapi" / "schema.yaml"


class ApiDescription(SimpleTestCase):
    def test_the_committed_file_is_up_to_date(self) -> None:
        out = io.StringIO()
        call_command("spectacular", "--validate", "--fail-on-warn", stdout=out)
        self.assertEqual(
            out.getvalue().strip(), SCHEMA.read_text().strip(), "run ./jubark schema and commit the result"
        )
