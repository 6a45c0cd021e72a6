"""Jobs with a day or a planned week as an iCalendar file (RFC 5545), by the package icalendar."""

from __future__ import annotations

import datetime
import re
from typing import Any

from icalendar import Calendar, Event

CONTROL = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029]+")
UID_AT = "work.jubark.invalid"  # .invalid (RFC 2606): an id, no host


def icalendar_file(site: str, rows: list[dict[str, Any]], made_at: datetime.datetime) -> bytes:
    """An event for each sheet with a day (`CONFIRMED`) or a week of the plan (`TENTATIVE`), all day long."""
    calendar = Calendar()
    calendar.add("prodid", "-//Jubark//Work//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", _line(f"Work: {site}"))
    for row in rows:
        first = row["day"] or row["week"]
        if not first:
            continue
        begins = datetime.date.fromisoformat(first)
        last = row["until"] or first if row["day"] else (begins + datetime.timedelta(days=4)).isoformat()
        waiting = [c["title"] for c in row["checks"] if c["open"]]
        event = Event()
        event.add("uid", f"{row['job']}@{UID_AT}")
        event.add("dtstamp", made_at)
        event.add("dtstart", begins)
        event.add("dtend", datetime.date.fromisoformat(last) + datetime.timedelta(days=1))
        event.add("summary", _line(f"{row['title']}: {row['tag'] or row['name']}, {row['block_name']}"))
        event.add("description", "\n".join(_line(line) for line in _said(row, waiting)))
        event.add("status", "CONFIRMED" if row["day"] else "TENTATIVE")
        event.add("location", _line(f"{site}, {row['block_name']}"))
        if row["lat"] is not None:
            event.add("geo", (row["lat"], row["lon"]))
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def _line(text: str) -> str:
    """Without control characters, which no content line may hold (RFC 5545, 3.1): a name of an earlier
    version may have them.
    """
    return CONTROL.sub(" ", text)


def _said(row: dict[str, Any], waiting: list[str]) -> list[str]:
    lines = [row["do"], *row["cautions"]]
    if row["crew"]:
        lines.append(f"{row['crew']}, {row['hours']:g} h")
    if waiting:
        lines.append("Open before the work: " + ", ".join(waiting))
    return lines
