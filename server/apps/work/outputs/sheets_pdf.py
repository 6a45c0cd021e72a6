"""Work sheets as PDF: a page with the places and a list, then a sheet for each job."""

from __future__ import annotations

import datetime
import hashlib
import json
from typing import Any

from django.utils.safestring import mark_safe

from apps.sites.models import Block, Site
from apps.work.outputs.site_sketch import site_sketch
from config.pdf import pdf_of


def sheets_pdf(site: Site, rows: list[dict[str, Any]], on: datetime.date) -> bytes:
    """The PDF of sheets made by `sheets_of`."""
    points = [(row["tag"] or row["name"], row["lon"], row["lat"]) for row in rows if row["lon"] is not None]
    blocks = Block.objects.filter(site=site, pk__in={row["block"] for row in rows})
    sketch = site_sketch(points, [block.boundary.coords[0] for block in blocks])
    digest = hashlib.sha256(json.dumps([rows, str(on)], sort_keys=True, default=str).encode()).hexdigest()
    context = {
        "site": site.name,
        "on": on,
        "rows": rows,
        "sketch": mark_safe(sketch),  # made here; labels are escaped in it
        "hours": sum(row["hours"] for row in rows),
    }
    return pdf_of("work_sheets.html", context, digest)
