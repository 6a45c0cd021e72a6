"""What an entry says, as plain JSON: for the screens, for files, and to see what a correction would drop."""

from __future__ import annotations

import datetime
from typing import Any
from uuid import UUID

from django.db.models import Model

from apps.plants.models.record import Body


def shown_body(body: Body | None) -> dict[str, Any]:
    """A body's fields as plain JSON, without those that say nothing."""
    if body is None:
        return {}
    fields = [(f, getattr(body, f.attname)) for f in body._meta.concrete_fields if f.name != "entry"]
    return {f.name: _plain(value) for f, value in fields if not _says_nothing(f, value)}


def _says_nothing(field: Any, value: Any) -> bool:
    """Unknown, empty, or a zero, a yes or a no that is the field's own default; a zero that was measured is
    said.
    """
    if value is None or value in ("", [], {}):
        return True
    return value in (0, False, True) and field.has_default() and field.get_default() == value


def _plain(value: Any) -> Any:
    if isinstance(value, list):
        return [_plain(v) for v in value]
    if isinstance(value, UUID | Model):
        return str(value)
    if isinstance(value, datetime.date):
        return value.isoformat()
    return float(value) if value.__class__.__name__ == "Decimal" else value
