"""The flora of this installation, for the core on a device."""

from __future__ import annotations

import hashlib
import json
from functools import lru_cache

from django.http import HttpRequest, HttpResponse
from django.utils.decorators import method_decorator
from django.views.decorators.gzip import gzip_page
from django.views.decorators.http import condition
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from jubark_core.flora.load import shipped_flora


@lru_cache(maxsize=1)
def flora_text() -> tuple[str, str]:
    """(the compiled flora with the notes of this installation as JSON, its ETag)."""
    flora = shipped_flora()
    text = json.dumps({"flora": flora.compiled, "notes": flora.notes}, separators=(",", ":"))
    return text, f'"{hashlib.sha256(text.encode()).hexdigest()[:16]}"'


def _etag(request: HttpRequest) -> str:
    return flora_text()[1]


@method_decorator(gzip_page, name="dispatch")
class FloraView(APIView):
    """The whole flora, fetched again only when it has changed."""

    @extend_schema(
        operation_id="core_flora",
        description="The compiled flora (docs/compiled-flora.schema.json) and this installation's notes.",
        responses={(200, "application/json"): OpenApiTypes.OBJECT, 304: None},
    )
    def get(self, request: Request) -> HttpResponse:
        response = condition(etag_func=_etag)(_whole)(request)
        response["Cache-Control"] = "private, no-cache"
        return response


def _whole(request: HttpRequest) -> HttpResponse:
    return HttpResponse(flora_text()[0], content_type="application/json")
