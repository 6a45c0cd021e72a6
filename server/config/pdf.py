"""A template as PDF, with the fonts of the app and nothing else from outside."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from django.conf import settings
from django.template.loader import render_to_string
from weasyprint import HTML
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher, URLFetcherResponse

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


def pdf_of(template: str, context: dict[str, Any], identifier: str) -> bytes:
    """The template, whose context gets the `faces` of the app, as PDF: the same byte by byte for the same
    context and identifier.
    """
    html = render_to_string(template, {**context, "faces": _faces()})
    made: bytes = HTML(string=html, url_fetcher=OwnFiles(), base_url=None).write_pdf(
        font_config=FontConfiguration(), pdf_identifier=identifier.encode()
    )
    return made


def _faces() -> list[dict[str, str | int]]:
    found: list[dict[str, str | int]] = []
    for family, weight, style, start in FACES:
        file = next(iter(sorted(assets().glob(f"{start}*.woff2"))), None)
        if file:
            found.append({"family": family, "weight": weight, "style": style, "url": file.as_uri()})
    return found
