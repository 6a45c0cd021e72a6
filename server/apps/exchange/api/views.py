"""Files out and in."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from uuid import UUID

from django.http import FileResponse
from django.utils.text import slugify
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.exchange.api.serializers import BatchSerializer, DecisionSerializer
from apps.exchange.csv_format import write_csv
from apps.exchange.geojson_format import write_geojson
from apps.exchange.rows import block_plants
from apps.exchange.selectors import batches_visible_to
from apps.exchange.services.stage_file import stage_file
from apps.exchange.services.take_file import drop_file, take_file
from apps.health.selectors import withheld_from_the_public
from apps.organisations.audit import note
from apps.organisations.permissions import actor_of
from apps.sites.models import Block
from apps.sites.selectors import blocks_visible_to
from apps.sites.time_zone import today_in
from config.errors import BadInput
from config.replica import reads_from_replica


def _download(pieces: Iterator[str], block: Block, ending: str, media_type: str) -> FileResponse:
    """The file whole, with its length: one that failed on the way is an error, never a shorter file that
    looks complete.
    """
    whole = tempfile.TemporaryFile()  # noqa: SIM115, closed by the response
    for piece in pieces:
        whole.write(piece.encode())
    whole.seek(0)
    return FileResponse(
        whole,
        as_attachment=True,
        filename=f"{slugify(block.name) or 'block'}.{ending}",
        content_type=media_type,
    )


AUDIENCE = OpenApiParameter(
    "audience",
    str,
    enum=["own", "public"],
    description="public: places and finds of notifiable causes stay out",
)


def _withheld(request: Request, block: Block) -> frozenset[UUID]:
    """What stays out of a file for the public."""
    audience = request.query_params.get("audience", "own")
    if audience not in ("own", "public"):
        raise BadInput("audience", audience, "own or public")
    if audience == "own":
        return frozenset()
    return frozenset(withheld_from_the_public(actor_of(request), block, today_in(block.site.time_zone)))


class CsvView(APIView):
    """A block as CSV; memory stays flat."""

    @extend_schema(
        operation_id="block_as_csv",
        parameters=[AUDIENCE],
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    @reads_from_replica
    def get(self, request: Request, block_id: UUID) -> FileResponse:
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        pieces = write_csv(block_plants(actor, block, _withheld(request, block)), block.site.units)
        note(actor, "export_read", thing=block.id, name=block.name, format="CSV")
        return _download(pieces, block, "csv", "text/csv; charset=utf-8")


class GeojsonView(APIView):
    """A block as GeoJSON; memory stays flat."""

    @extend_schema(
        operation_id="block_as_geojson",
        parameters=[AUDIENCE],
        responses={(200, "application/geo+json"): OpenApiTypes.OBJECT},
    )
    @reads_from_replica
    def get(self, request: Request, block_id: UUID) -> FileResponse:
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        plants = block_plants(actor, block, _withheld(request, block))
        pieces = write_geojson(block.name, plants, block.site.units)
        note(actor, "export_read", thing=block.id, name=block.name, format="GeoJSON")
        return _download(pieces, block, "geojson", "application/geo+json")


class ImportsView(APIView):
    """Reading a file into a block: staged first."""

    parser_classes = (MultiPartParser,)

    @extend_schema(
        operation_id="file_stage",
        request={
            "multipart/form-data": {
                "type": "object",
                "properties": {
                    "block": {"type": "string", "format": "uuid"},
                    "file": {"type": "string", "format": "binary"},
                },
                "required": ["block", "file"],
            }
        },
        responses={201: BatchSerializer},
    )
    def post(self, request: Request) -> Response:
        actor = actor_of(request)
        given = request.FILES.get("file")
        if given is None:
            raise BadInput("file", "nothing", "a file ending in .csv or .geojson")
        block = blocks_visible_to(actor).filter(pk=_uuid(request.POST.get("block"))).get()
        batch = stage_file(actor=actor, block=block, file_name=given.name or "file", data=given.read())
        return Response(BatchSerializer(batch).data, status=status.HTTP_201_CREATED)


class ImportView(APIView):
    """A staged file: look at it, take it, drop it."""

    @extend_schema(operation_id="file_read", responses=BatchSerializer)
    def get(self, request: Request, batch_id: UUID) -> Response:
        return Response(BatchSerializer(batches_visible_to(actor_of(request)).get(pk=batch_id)).data)

    @extend_schema(operation_id="file_decide", request=DecisionSerializer, responses=BatchSerializer)
    def post(self, request: Request, batch_id: UUID) -> Response:
        given = DecisionSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        actor = actor_of(request)
        batch = batches_visible_to(actor).get(pk=batch_id)
        decide = take_file if given.validated_data["decision"] == "take" else drop_file
        return Response(BatchSerializer(decide(actor=actor, batch=batch)).data)


def _uuid(raw: object) -> UUID:
    try:
        return UUID(str(raw))
    except ValueError:
        raise BadInput("block", raw, "the id of a block") from None
