"""The committed API description is what the code says."""

import io
import re
from pathlib import Path

from django.core.management import call_command
from django.test import SimpleTestCase

from jubark_core.door import OPERATIONS
from jubark_core.records.upgrade import VERSION

SCHEMA = Path(__file__).resolve().parents[3] / "openapi" / "schema.yaml"


class ApiDescription(SimpleTestCase):
    def test_the_app_stamps_what_it_saves_with_the_version_the_core_has(self) -> None:
        entries = SCHEMA.parents[1] / "web" / "src" / "shared" / "records" / "entries.ts"
        stamped = re.search(r"RECORD_VERSION = (\d+);", entries.read_text())
        assert stamped is not None
        self.assertEqual(int(stamped[1]), VERSION)

    def test_the_web_has_a_function_for_each_operation_of_the_core_and_no_other_way_in(self) -> None:
        source = SCHEMA.parents[1] / "web" / "src"
        own = source / "core" / "operations.ts"
        self.assertEqual(set(re.findall(r'= operation\(\s*"([a-z-]+)"', own.read_text())), set(OPERATIONS))
        asked = {
            (file.name, address)
            for file in source.rglob("*.ts*")
            if file.name != "schema.d.ts" and file != own
            for address in re.findall(r'"/api/core/([a-z-]+)/"', file.read_text())
        }
        self.assertEqual(asked, {("store.ts", "flora")})

    def test_the_committed_file_is_up_to_date(self) -> None:
        out = io.StringIO()
        call_command("spectacular", "--validate", "--fail-on-warn", stdout=out)
        self.assertEqual(
            out.getvalue().strip(), SCHEMA.read_text().strip(), "run ./jubark schema and commit the result"
        )
