"""The block as CSV (RFC 4180, UTF-8, header row): one row per entry, plant and visit repeated on each."""

from __future__ import annotations

import csv
import io
import json
from collections import Counter
from collections.abc import Iterable, Iterator
from typing import Any

from config.errors import BadInput
from jubark_core.condition.words import qualified
from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import Described, fields_of
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.shapes import Number, Outline, Whole
from jubark_core.records.things import EntryHead, Plant, Visit
from jubark_core.records.upgrade import VERSION
from jubark_core.units import unit_of

Fields = dict[str, tuple[str, Described]]


def _columns(of: type, prefix: str, bare: tuple[str, ...] = (), left_out: tuple[str, ...] = ()) -> Fields:
    """Column -> (field, its description)."""
    return {
        name if name in bare else prefix + name: (name, what)
        for name, what in fields_of(of).items()
        if name not in left_out
    }


PLANT = _columns(Plant, "plant_", bare=("lon", "lat", "outline", "from_plant"), left_out=("block",))
VISIT = _columns(Visit, "visit_", bare=("local_date", "observed_at"), left_out=("plant", "entries"))
ENTRY = _columns(EntryHead, "entry_", bare=("replaces", "retracts", "reason"))
NUMBERS = {
    column
    for columns in (PLANT, VISIT, ENTRY)
    for column, (_, what) in columns.items()
    if isinstance(what.holds, Number | Whole)
}
READABLE = ("tag", "name", "what", "value", "unit")  # for people; not read back
COLUMNS = (*READABLE, *PLANT, *VISIT, *ENTRY, "kind", "body", "record_version")
# A file of an earlier version has no column of a later one.
NEEDED = (
    *(
        column
        for columns in (PLANT, VISIT, ENTRY)
        for column, (_, what) in columns.items()
        if what.since == 1
    ),
    "kind",
    "body",
)
FORMULA_START = ("=", "+", "-", "@", "\t", "\r", "\n")
PLACES = 6  # of a figure for people; what is read back is in the body, in full
MOST_ROWS = 100_000
MOST_COLUMNS = 1_000  # columns of a person's own are passed over, so many of them are no table
LONGEST_CELL = 1_000_000  # an outline of as many positions as are taken fits


def write_csv(plants: Iterable[dict[str, Any]], units: str = "metric") -> Iterator[str]:
    """Lines of the file, one chunk per plant. units: the site's, for the columns that people read."""
    yield _lines([dict.fromkeys(COLUMNS, "") | {c: c for c in COLUMNS}])
    for plant in plants:
        yield _lines(list(_rows(plant, units)))


def _rows(plant: dict[str, Any], units: str) -> Iterator[dict[str, Any]]:
    base = {"record_version": VERSION, **_cells(PLANT, plant)}
    base |= {name: plant["current"].get(name, "") for name in ("tag", "name")}
    if not plant["visits"]:
        yield base
    for visit in plant["visits"]:
        seen = base | _cells(VISIT, visit)
        if not visit.get("entries"):
            yield seen
        for e in visit.get("entries", []):
            body = e.get("body", {})
            yield (
                seen
                | _cells(ENTRY, e)
                | _readable(e["kind"], body, units)
                | {
                    "kind": e["kind"],
                    "body": json.dumps(body, ensure_ascii=False, sort_keys=True),
                }
            )


def _cells(columns: Fields, record: dict[str, Any]) -> dict[str, Any]:
    return {
        column: json.dumps(record[name]) if isinstance(what.holds, Outline) else record[name]
        for column, (name, what) in columns.items()
        if name in record
    }


def _readable(kind: str, body: dict[str, Any], units: str) -> dict[str, Any]:
    """What an entry records, for a reader of the table, in the site's units."""
    if kind == "measurement":
        quantity = QUANTITIES[body["quantity"]]
        unit = unit_of(quantity.unit, units)
        return {
            "what": quantity.label,
            "value": round(body["value"] / unit.per, PLACES),
            "unit": unit.label,
        }
    if kind == "observation":
        return {"what": body["character"], "value": _seen(body)}
    if kind == "condition":
        word = qualified(body.get("word", ""), body.get("at_most"), body.get("leafless"))
        return {"what": KINDS[kind].label, "value": word}
    value = body.get(KINDS[kind].main, "")
    return {"what": KINDS[kind].label, "value": " ".join(value) if isinstance(value, list) else value}


def _seen(body: dict[str, Any]) -> str:
    if body.get("none"):
        return "looked, not there"
    if body.get("skipped"):
        return "not looked"
    if body.get("applies") is False:
        return "does not apply"
    return " ".join(str(v) for v in body.get("values") or body.get("states") or [])


def _lines(rows: list[dict[str, Any]]) -> str:
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, restval="", lineterminator="\r\n")
    for row in rows:
        writer.writerow({k: _safe("" if v is None else v) for k, v in row.items()})
    return out.getvalue()


def _safe(value: Any) -> Any:
    """No text starts like a formula, which a spreadsheet would run: an apostrophe goes before it, and is
    taken off on reading.
    """
    return "'" + value if isinstance(value, str) and value.lstrip("'").startswith(FORMULA_START) else value


def _as_written(cell: str) -> str:
    """A cell without the apostrophe that `_safe` put before it."""
    return cell[1:] if cell.startswith("'") and cell.lstrip("'").startswith(FORMULA_START) else cell


def read_csv(data: bytes) -> Iterator[tuple[int, dict[str, Any]]]:
    """(row number, flat row) of a file. The header is row 1.

    Raises BadInput for another encoding, a missing column, a column named twice, or too many rows. Half a row
    comes out with the key `short`, so that it can be listed with its number.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise BadInput(
            "file",
            f"byte {data[error.start]:#04x} at position {error.start}",
            "text in UTF-8; save the file again as CSV UTF-8",
        ) from None
    if "\x00" in text:
        raise BadInput("file", "a zero byte", "text in UTF-8; this looks like another kind of file")
    csv.field_size_limit(LONGEST_CELL)
    reader = csv.reader(io.StringIO(text, newline=""), strict=True)
    try:
        header = next(reader, [])
        if len(header) > MOST_COLUMNS:
            raise BadInput("header", f"{len(header)} columns", f"at most {MOST_COLUMNS} columns")
        twice = sorted(c for c, times in Counter(header).items() if times > 1)
        if twice:
            raise BadInput("header", f"twice: {', '.join(twice)}", "each column once")
        missing = [c for c in NEEDED if c not in header]
        if missing:
            raise BadInput("header", f"no column {', '.join(missing)}", "all of " + ", ".join(NEEDED))
        for number, cells in enumerate(reader, start=2):
            if number > MOST_ROWS:
                raise BadInput(
                    "file", f"more than {MOST_ROWS} rows", f"at most {MOST_ROWS} rows; cut it into blocks"
                )
            if not cells:
                continue
            row: dict[str, Any] = dict(zip(header, map(_as_written, cells), strict=False))
            if len(cells) != len(header):
                row["short"] = f"{len(cells)} of {len(header)} columns"
            yield number, row
    except csv.Error as error:
        raise BadInput("file", str(error), "CSV as RFC 4180: commas, quotes doubled inside quotes") from None


def nested(row: dict[str, Any]) -> tuple[dict[str, Any], dict[str, Any], dict[str, Any]]:
    """(plant, visit, entry) raw items of a flat row; empty dicts where the row has none. Raises BadInput for
    a bad cell.
    """
    plant = _record(PLANT, row)
    if not row["visit_id"]:
        return plant, {}, {}
    visit = {"plant": row["plant_id"], **_record(VISIT, row)}
    if not row["entry_id"]:
        return plant, visit, {}
    entry = {"kind": row["kind"], "body": _json(row, "body"), **_record(ENTRY, row)}
    return plant, visit, entry


def version_of(row: dict[str, Any]) -> int:
    """The record version of a row; a file of the first version names none. Raises BadInput."""
    given = row.get("record_version") or "1"
    if not given.isascii() or not given.isdigit() or not 1 <= int(given[:9]) <= VERSION:
        raise BadInput("record_version", given, f"a whole number from 1 to {VERSION}")
    return int(given)


def _record(columns: Fields, row: dict[str, Any]) -> dict[str, Any]:
    return {
        name: _cell(row, column, what)
        for column, (name, what) in columns.items()
        if row.get(column, "") != ""
    }


def _cell(row: dict[str, Any], column: str, what: Described) -> Any:
    if column in NUMBERS:
        return _number(row, column)
    return _json(row, column) if isinstance(what.holds, Outline) else row[column]


def _number(row: dict[str, Any], column: str) -> float | int:
    try:
        return int(row[column]) if row[column].lstrip("-").isdigit() else float(row[column])
    except ValueError:
        raise BadInput(column, row[column], "a number with a point, e.g. -79.3012") from None


def _json(row: dict[str, Any], column: str) -> Any:
    try:
        return json.loads(row[column])
    except (ValueError, RecursionError):
        raise BadInput(column, row[column], "JSON as it was written by the export") from None
