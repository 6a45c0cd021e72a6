"""The block as CSV (RFC 4180, UTF-8, header row): one row per entry, plant and visit repeated on each."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Iterable, Iterator
from typing import Any

from apps.exchange.rows import PLANT_FIELDS, VISIT_FIELDS
from config.errors import BadInput
from jubark_core.size.compute import QUANTITIES

PLANT_COLUMNS = (
    "plant_id",
    "lon",
    "lat",
    "outline",
    "from_plant",
    "plant_recorded_at",
    *(f"plant_{n}" for n in PLANT_FIELDS),
)
VISIT_COLUMNS = ("visit_id", "local_date", "observed_at", *(f"visit_{n}" for n in VISIT_FIELDS))
ENTRY_COLUMNS = (
    "entry_id",
    "kind",
    "body",
    "entry_observer",
    "entry_recorded_at",
    "replaces",
    "retracts",
    "reason",
)
READABLE = ("tag", "name", "what", "value", "unit")  # for people; not read back
COLUMNS = (*READABLE, *PLANT_COLUMNS, *VISIT_COLUMNS, *ENTRY_COLUMNS)
NUMBERS = {
    "lon",
    "lat",
    "plant_accuracy_m",
    "plant_bearing_deg",
    "plant_distance_m",
    "plant_row_position",
    "visit_utc_offset_min",
}
FORMULA_START = ("=", "+", "-", "@", "\t", "\r", "\n")
MOST_ROWS = 100_000
LONGEST_CELL = 1_000_000  # an outline of as many positions as are taken fits
UNIT_AT_THE_END = re.compile(r"(_per)?_(cm|m|pct)$")


def write_csv(plants: Iterable[dict[str, Any]]) -> Iterator[str]:
    """Lines of the file, one chunk per plant."""
    yield _lines([dict.fromkeys(COLUMNS, "") | {c: c for c in COLUMNS}])
    for plant in plants:
        yield _lines(list(_rows(plant)))


def _rows(plant: dict[str, Any]) -> Iterator[dict[str, Any]]:
    base = {
        "plant_id": plant["id"],
        "lon": plant["lon"],
        "lat": plant["lat"],
        "from_plant": plant["from_plant"],
        "plant_recorded_at": plant["recorded_at"],
    }
    base |= {"outline": json.dumps(plant["outline"]) if plant["outline"] else ""}
    base |= {f"plant_{n}": plant[n] for n in PLANT_FIELDS}
    base |= {"tag": plant["current"].get("tag", ""), "name": plant["current"].get("name", "")}
    if not plant["visits"]:
        yield base
    for visit in plant["visits"]:
        seen = (
            base
            | {
                "visit_id": visit["id"],
                "local_date": visit["local_date"],
                "observed_at": visit["observed_at"],
            }
            | {f"visit_{n}": visit[n] for n in VISIT_FIELDS}
        )
        if not visit["entries"]:
            yield seen
        for e in visit["entries"]:
            what, value, unit = said(e["kind"], e["body"])
            yield seen | {
                "entry_id": e["id"],
                "kind": e["kind"],
                "body": json.dumps(e["body"], ensure_ascii=False, sort_keys=True),
                "entry_observer": e["observer"],
                "entry_recorded_at": e["recorded_at"],
                "replaces": e["replaces"],
                "retracts": e["retracts"],
                "reason": e["reason"],
                "what": what,
                "value": value,
                "unit": unit,
            }


def said(kind: str, body: dict[str, Any]) -> tuple[str, Any, str]:
    """(what, value, unit) of an entry for a reader of the table."""
    if kind == "look":
        seen = (
            "none"
            if body.get("none")
            else "not looked"
            if body.get("skipped")
            else body.get("values") or body.get("states") or []
        )
        return (
            body.get("character", ""),
            " ".join(str(v) for v in seen) if isinstance(seen, list) else seen,
            "",
        )
    if kind == "measurement":
        quantity = str(body.get("quantity", ""))
        unit = QUANTITIES[quantity][2] if quantity in QUANTITIES else ""
        return UNIT_AT_THE_END.sub("", quantity), body.get("value", ""), unit
    first = {
        "determination": "name",
        "condition": "word",
        "sign": "sign",
        "note": "text",
        "tag": "number",
        "life": "state",
        "defect": "defect",
        "photo": "sha256",
        "voucher": "number",
    }
    return kind, body.get(first.get(kind, ""), ""), ""


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
        twice = sorted({c for c in header if header.count(c) > 1})
        if twice:
            raise BadInput("header", f"twice: {', '.join(twice)}", "each column once")
        missing = [c for c in (*PLANT_COLUMNS, *VISIT_COLUMNS, *ENTRY_COLUMNS) if c not in header]
        if missing:
            raise BadInput(
                "header",
                f"no column {', '.join(missing)}",
                "all of " + ", ".join((*PLANT_COLUMNS, *VISIT_COLUMNS, *ENTRY_COLUMNS)),
            )
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
    plant = {"id": row["plant_id"], "recorded_at": row["plant_recorded_at"]}
    if row["lon"] or row["lat"]:
        plant |= {"lon": _number(row, "lon"), "lat": _number(row, "lat")}
    if row["from_plant"]:
        plant["from_plant"] = row["from_plant"]
    if row["outline"]:
        plant["outline"] = _json(row, "outline")
    plant |= {n: _cell(row, f"plant_{n}") for n in PLANT_FIELDS if row[f"plant_{n}"] != ""}
    if not row["visit_id"]:
        return plant, {}, {}
    visit = {
        "id": row["visit_id"],
        "plant": row["plant_id"],
        "local_date": row["local_date"],
        "observed_at": row["observed_at"],
    }
    visit |= {n: _cell(row, f"visit_{n}") for n in VISIT_FIELDS if row[f"visit_{n}"] != ""}
    if not row["entry_id"]:
        return plant, visit, {}
    entry = {
        "id": row["entry_id"],
        "kind": row["kind"],
        "body": _json(row, "body"),
        "observer": row["entry_observer"],
        "recorded_at": row["entry_recorded_at"],
    }
    entry |= {n: row[n] for n in ("replaces", "retracts", "reason") if row[n]}
    return plant, visit, entry


def _cell(row: dict[str, Any], column: str) -> Any:
    return _number(row, column) if column in NUMBERS else row[column]


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
