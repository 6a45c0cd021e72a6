"""A report as PDF: one page, and the schedule of its trees behind it."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from django.conf import settings
from django.template.loader import render_to_string
from weasyprint import HTML
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher, URLFetcherResponse

from apps.inspections.coverage_report import with_names
from apps.inspections.models import Report
from apps.organisations.models import Member
from jubark_core.records.words import shown_word

# family, weight, style, how the name of its file begins
FACES = (
    ("Atkinson", 400, "normal", "atkinson-hyperlegible-next-latin-400-normal-"),
    ("Atkinson", 700, "normal", "atkinson-hyperlegible-next-latin-700-normal-"),
    ("Source Serif", 400, "italic", "source-serif-4-latin-400-italic-"),
    ("Source Serif", 600, "normal", "source-serif-4-latin-600-normal-"),
)


class OwnFiles(URLFetcher):  # type: ignore[misc]
    """Fetches the fonts that ship with the app, and nothing else: no network, no other file."""

    def fetch(self, url: str, headers: Any = None) -> URLFetcherResponse:
        """The file. Raises ValueError for anything that is not a font of the app."""
        parts = urlsplit(url)
        path = Path(unquote(parts.path)).resolve()
        if parts.scheme != "file" or path.parent != assets() or path.suffix != ".woff2":
            raise ValueError(f"{url}: a report takes in nothing but the fonts of the app")
        return URLFetcherResponse(url, path.read_bytes(), {"Content-Type": "font/woff2"})


def assets() -> Path:
    """Where the fonts of the app are."""
    return (Path(settings.STATIC_ROOT) / "assets").resolve()


def report_pdf(report: Report) -> bytes:
    """The PDF of a report; printed again it is the same, byte by byte, while its people keep their names."""
    body = with_names(report.body)
    html = render_to_string(
        "coverage_report.html",
        {
            "report": report,
            "body": body,
            "author": Member.objects.get(pk=report.author_id).shown_name,
            "faces": _faces(),
            "rules": [_rule(rule) for rule in body["regime"].get("rules", [])],
            "rows": [_row(row) for row in body["rows"]],
            "by_whom": _by_whom(body["rows"]),
        },
    )
    fonts = FontConfiguration()
    made: bytes = HTML(string=html, url_fetcher=OwnFiles(), base_url=None).write_pdf(
        font_config=fonts, pdf_identifier=report.sha256.encode()
    )
    return made


def _faces() -> list[dict[str, str | int]]:
    found: list[dict[str, str | int]] = []
    for family, weight, style, start in FACES:
        file = next(iter(sorted(assets().glob(f"{start}*.woff2"))), None)
        if file:
            found.append({"family": family, "weight": weight, "style": style, "url": file.as_uri()})
    return found


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
