"""A report as PDF: one page, and the schedule of its trees behind it."""

from __future__ import annotations

from typing import Any

from apps.inspections.coverage_report import with_names
from apps.inspections.models import Report
from apps.organisations.models import Member
from config.pdf import pdf_of
from jubark_core.records.words import shown_word


def report_pdf(report: Report) -> bytes:
    """The PDF of a report; printed again it is the same, byte by byte, while its people keep their names."""
    body = with_names(report.body)
    return pdf_of(
        "coverage_report.html",
        {
            "report": report,
            "body": body,
            "author": Member.objects.get(pk=report.author_id).shown_name,
            "rules": [_rule(rule) for rule in body["regime"].get("rules", [])],
            "rows": [_row(row) for row in body["rows"]],
            "by_whom": _by_whom(body["rows"]),
        },
        report.sha256,
    )


def _rule(rule: dict[str, Any]) -> dict[str, Any]:
    moderate = rule.get("moderate_months") or rule["months"]
    return {
        "zone": rule["zone"],
        "level": shown_word(rule["level"]),
        "months": rule["months"],
        "moderate": moderate,
        "high": rule.get("high_months") or moderate,
        "qualification": rule.get("qualification", ""),
    }


def _row(row: dict[str, Any]) -> dict[str, Any]:
    return {
        **row,
        "look": row["shown"],
        "unseen": " and ".join(row["not_seen"]),
        "asked": f"{shown_word(row['level_asked'])}, {row['months']} months" if row["level_asked"] else "",
    }


def _by_whom(rows: list[dict[str, Any]]) -> list[tuple[str, int]]:
    counts: dict[str, int] = {}
    for row in rows:
        if row["last"]:
            counts[row["last"]["inspector"]] = counts.get(row["last"]["inspector"], 0) + 1
    return sorted(counts.items(), key=lambda pair: (-pair[1], pair[0]))
