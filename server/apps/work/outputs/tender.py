"""A package for contractors: a list to price, places, sheets. No cost of the house, no name of a person."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from typing import Any

COLUMNS = ("number", "tag", "name", "block", "dbh_cm", "height_m", "lat", "lon", "work", "specification")
TO_FILL_IN = ("price", "remark")
EARLIEST_IN_ZIP = (1980, 1, 1, 0, 0, 0)  # so that the same package is the same file


def tender(rows: list[dict[str, Any]], sheets: bytes) -> bytes:
    """A zip of schedule.csv (UTF-8, prices to fill in), places.geojson (WGS 84) and sheets.pdf."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as package:
        for name, data in (
            ("schedule.csv", _schedule(rows)),
            ("places.geojson", _places(rows)),
            ("sheets.pdf", sheets),
        ):
            package.writestr(zipfile.ZipInfo(name, EARLIEST_IN_ZIP), data)
    return out.getvalue()


def _schedule(rows: list[dict[str, Any]]) -> str:
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow([*COLUMNS, *TO_FILL_IN])
    for number, row in enumerate(rows, start=1):
        specification = "; ".join(f"{label}: {value}" for label, value in row["specification"])
        plain = [row["tag"], row["name"], row["block_name"], row["dbh_cm"], row["height_m"]]
        values = [number, *plain, row["lat"], row["lon"], row["do"], specification, "", ""]
        writer.writerow([_no_formula(value) for value in values])
    return text.getvalue()


def _no_formula(value: Any) -> Any:
    """Spreadsheets run what begins like a formula: such text gets an apostrophe before it."""
    return f"'{value}" if isinstance(value, str) and value[:1] in "=+-@\t\r" and value else value


def _places(rows: list[dict[str, Any]]) -> str:
    features = [
        {
            "type": "Feature",
            "geometry": {"type": "Point", "coordinates": [row["lon"], row["lat"]]},
            "properties": {"number": number, "tag": row["tag"], "name": row["name"], "work": row["do"]},
        }
        for number, row in enumerate(rows, start=1)
        if row["lon"] is not None
    ]
    return json.dumps({"type": "FeatureCollection", "features": features})
