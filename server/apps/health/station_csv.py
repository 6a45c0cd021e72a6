"""Daily readings of a station from CSV: a date, the lowest and the highest of the day, in °C or °F."""

from __future__ import annotations

import csv
import datetime
import io
from dataclasses import dataclass

from config.errors import BadInput
from jubark_core.checks import require_date
from jubark_core.errors import InputError

HEADS = {"date": "date", "min_c": "min", "max_c": "max", "min_f": "min", "max_f": "max"}
MOST_DAYS = 4000
LARGEST = 600_000  # characters


@dataclass(frozen=True)
class Readings:
    """Readings from a first day on; None for a day that is missing."""

    first_day: datetime.date
    min_c: list[float | None]
    max_c: list[float | None]

    @property
    def missing(self) -> int:
        """Days without both readings."""
        return sum(low is None or high is None for low, high in zip(self.min_c, self.max_c, strict=True))


def read_station(text: object) -> Readings:
    """The readings of a CSV file with the heads date and min_c, max_c or min_f, max_f. Raises BadInput naming
    the row.
    """
    if not isinstance(text, str) or len(text) > LARGEST:
        raise BadInput(
            "csv", len(text) if isinstance(text, str) else text, f"CSV of at most {LARGEST} characters"
        )
    # lines end by LF, CR LF, or CR alone, as old spreadsheets write them
    rows = csv.DictReader(io.StringIO("\n".join(text.lstrip("\ufeff").splitlines()), newline=""))
    try:
        heads = [(h or "").strip().lower() for h in rows.fieldnames or []]
        return _readings(rows, heads)
    except csv.Error as error:
        raise BadInput("csv", str(error), "CSV as RFC 4180") from None


def _readings(rows: csv.DictReader[str], heads: list[str]) -> Readings:
    pair = next((p for p in (("min_c", "max_c"), ("min_f", "max_f")) if set(p) <= set(heads)), None)
    if "date" not in heads or pair is None:
        raise BadInput("csv: heads", ", ".join(heads), "date, min_c, max_c (or min_f, max_f)")
    days: dict[datetime.date, tuple[float | None, float | None]] = {}
    for i, row in enumerate(rows, start=2):
        named = {
            (key or "").strip().lower(): (value or "") for key, value in row.items() if isinstance(value, str)
        }
        day = _day(named.get("date", ""), i)
        if day in days:
            raise BadInput(f"csv: row {i}: date", day.isoformat(), "each day once")
        low, high = (_degrees(named.get(head, ""), head, i) for head in pair)
        if low is not None and high is not None and low > high:
            raise BadInput(f"csv: row {i}: {pair[0]}", low, f"at most the day's highest, {high:g}")
        days[day] = (low, high)
    if not days:
        raise BadInput("csv", "no rows", "at least one day")
    first, last = min(days), max(days)
    length = (last - first).days + 1
    if length > MOST_DAYS:
        raise BadInput("csv", f"{length} days", f"at most {MOST_DAYS} days from the first to the last")
    whole = [days.get(first + datetime.timedelta(days=k), (None, None)) for k in range(length)]
    return Readings(first, [low for low, _ in whole], [high for _, high in whole])


def _day(raw: str, row: int) -> datetime.date:
    try:
        return require_date("date", raw.strip())
    except InputError as error:
        raise BadInput(f"csv: row {row}: date", raw, error.allowed) from None


def _degrees(raw: str, head: str, row: int) -> float | None:
    if not raw.strip():
        return None
    try:
        value = float(raw)
    except ValueError:
        raise BadInput(f"csv: row {row}: {head}", raw, "a number with a point, or nothing") from None
    celsius = (value - 32) / 1.8 if head.endswith("_f") else value
    if not -80 <= celsius <= 60:
        raise BadInput(f"csv: row {row}: {head}", raw, "from -80 to 60 °C")
    return round(celsius, 2)
