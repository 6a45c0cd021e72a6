"""The inventory: current values of many stems, filtered, sorted, paged by key so that page 10,000 costs what
page 1 does.
"""

from __future__ import annotations

import base64
import json
from typing import Any
from uuid import UUID

from django.db.models import F, Q, QuerySet, Value
from django.db.models.functions import NullIf

from apps.plants.models import Current
from config.errors import BadInput
from jubark_core.checks import require_between, require_date, require_one_of, require_storable
from jubark_core.errors import InputError
from jubark_core.records.shapes import Id

SORTABLE = (
    "tag",
    "name",
    "dbh_cm",
    "height_m",
    "condition",
    "risk",
    "next_inspection",
    "last_seen",
    "life",
    "visits",
)
TEXT = ("tag", "name", "condition", "life")
DAYS = ("last_seen", "next_inspection")
COLUMNS = {"risk": "risk_order"}  # what a column is sorted by, where that is not the column
PAGE = 100
EXACT_TO = 10_000


def inventory_page(
    rows: QuerySet[Current], sort: str, cursor: str | None, size: int = PAGE
) -> tuple[list[Current], str | None]:
    """One page in the order of `sort` (a column, `-` before it for descending; empty values last) and the
    next cursor.

    Rows with a value come by an index that holds (organisation, value, plant), read from either end; those
    without come after them. Raises BadInput for an unknown column or a cursor that is not one of ours.
    """
    column = require_one_of("sort", sort.removeprefix("-"), SORTABLE)
    down = sort.startswith("-")
    value, plant = _read(cursor, column) if cursor else (None, None)
    # an empty word is as good as no value: it comes last, whichever way the column runs
    by = COLUMNS.get(column, column)
    rows = rows.annotate(sorted_by=NullIf(by, Value("")) if column in TEXT else F(by))
    page: list[Any] = []
    if plant is None or value is not None:
        with_value = rows.filter(sorted_by__isnull=False)
        if plant is not None:
            with_value = with_value.filter(_beyond(down, value, plant))
        order = ("-sorted_by", "-plant_id") if down else ("sorted_by", "plant_id")
        page = list(with_value.order_by(*order)[: size + 1])
    if len(page) <= size:
        without = rows.filter(sorted_by__isnull=True)
        if plant is not None and value is None:
            without = without.filter(plant_id__gt=plant)
        page += without.order_by("plant_id")[: size + 1 - len(page)]
    if len(page) <= size:
        return page, None
    last = page[size - 1]
    return page[:size], cursor_after(last.sorted_by, last.plant_id)


def _beyond(down: bool, value: Any, plant: UUID) -> Q:
    """Rows after a value and a plant. The bound on the value alone lets an index start there."""
    way, bound = ("lt", "lte") if down else ("gt", "gte")
    after = Q(**{f"sorted_by__{way}": value}) | Q(**{"sorted_by": value, f"plant_id__{way}": plant})
    return Q(**{f"sorted_by__{bound}": value}) & after


def cursor_after(value: Any, plant: object) -> str:
    """The cursor of the page that begins after a row of that value."""
    return base64.urlsafe_b64encode(json.dumps([value, str(plant)], default=str).encode()).decode()


def _read(cursor: str, column: str) -> tuple[Any, UUID]:
    """(value, plant) of a cursor we wrote for this column. Raises BadInput for any other."""
    try:
        value, plant = json.loads(base64.urlsafe_b64decode(cursor.encode()))
        typed = None if value is None else _typed(column, value)
        require_storable("cursor", typed if isinstance(typed, str) else None)
        return typed, Id().read("cursor", plant, {})
    except (ValueError, TypeError, RecursionError, InputError):
        raise BadInput("cursor", cursor, "the cursor of the page before, with the same sort") from None


def _typed(column: str, value: Any) -> Any:
    """The value as the column holds it. Raises InputError."""
    if column in DAYS:
        return require_date(column, value)
    if column in TEXT:
        if not isinstance(value, str):
            raise InputError(column, value, "a text")
        return value
    return require_between(column, value, 0, 1e6)


def counted(rows: QuerySet[Current]) -> tuple[int, bool]:
    """(number of rows, whether it is exact): counting stops at 10,000."""
    found = rows.order_by()[: EXACT_TO + 1].count()
    return (found, True) if found <= EXACT_TO else (EXACT_TO, False)
