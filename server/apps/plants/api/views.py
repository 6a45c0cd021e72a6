"""The inventory, one plant, the outbox, changes, photographs."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import Q
from django.http import FileResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.models import Member
from apps.organisations.permissions import actor_of
from apps.plants.api import serializers as s
from apps.plants.api.filters import InventoryFilter
from apps.plants.block_carbon import block_carbon
from apps.plants.block_summary import block_summary
from apps.plants.inventory import counted, inventory_page
from apps.plants.merged import duplicates_of, last_merged
from apps.plants.models import Change, Entry, Plant, Visit
from apps.plants.selectors import (
    current_visible_to,
    entries_by_plant,
    photo_files_visible_to,
    plants_by_taxon,
    plants_visible_to,
    trees_visible_to,
    visits_visible_to,
)
from apps.plants.services.merge_plants import merge_plants, undo_merge
from apps.plants.services.receive_outbox import receive_outbox
from apps.plants.services.store_photo import photo_recorded, store_photo, stored_file
from apps.plants.stored import OBSERVERS, kind_of, shown_body
from apps.sites.selectors import blocks_visible_to
from config.api_components import component
from config.errors import BadInput
from config.json_parsers import AnyJsonParser
from jubark_core.records.typed_schema import REF
from jubark_core.tree_file.filed import standing_entries

CHANGES_A_TIME = 1000
PLANTS_A_TIME = 5000


def read_id(field: str, raw: str) -> UUID:
    """An id of the address. Raises BadInput."""
    try:
        return UUID(raw)
    except ValueError:
        raise BadInput(field, raw, "an id as it was given") from None


class InventoryView(APIView):
    """Current values of the organisation's plants."""

    @extend_schema(
        operation_id="inventory_list",
        parameters=[
            OpenApiParameter("sort", str),
            OpenApiParameter("cursor", str),
            OpenApiParameter("block", OpenApiTypes.UUID),
            OpenApiParameter("words", str),
            OpenApiParameter("taxon", str),
            OpenApiParameter("dbh_from", float),
            OpenApiParameter("dbh_to", float),
            OpenApiParameter("condition", str),
            OpenApiParameter("life", str),
            OpenApiParameter("form", str, enum=["vacant"], description="vacant planting places instead"),
            OpenApiParameter("sign", str),
            OpenApiParameter("tag_clash", bool),
            OpenApiParameter("unnamed", bool),
        ],
        responses=s.InventorySerializer,
    )
    def get(self, request: Request) -> Response:
        """A page of 100, by key; sort by any column, `-` for descending."""
        actor, form = actor_of(request), request.query_params.get("form", "")
        if form not in ("", "vacant"):
            raise BadInput("form", form, "vacant, or nothing for trees and groups")
        vacant = current_visible_to(actor).filter(plant__form="vacant")
        narrowed = InventoryFilter(request.query_params, queryset=vacant if form else trees_visible_to(actor))
        if not narrowed.is_valid():
            field, errors = next(iter(narrowed.errors.items()))
            raise BadInput(field, request.query_params.get(field, ""), str(errors[0]))
        rows, cursor = inventory_page(
            narrowed.qs, request.query_params.get("sort", "tag"), request.query_params.get("cursor")
        )
        number, exact = counted(narrowed.qs)
        return Response(
            s.InventorySerializer({"rows": rows, "next": cursor, "count": number, "count_exact": exact}).data
        )


class BlockPlantsView(APIView):
    """The plants of a block with their current values: for the map, and for the device offline."""

    @extend_schema(
        operation_id="block_plants_list",
        parameters=[
            OpenApiParameter("after", OpenApiTypes.UUID, description="the last plant of the page before")
        ],
        responses=s.CurrentSerializer(many=True),
    )
    def get(self, request: Request, block_id: UUID) -> Response:
        """5,000 at a time, by tag; a page that is shorter is the last."""
        actor = actor_of(request)
        rows = current_visible_to(actor).filter(block=blocks_visible_to(actor).get(pk=block_id))
        if raw := request.query_params.get("after", ""):
            last = rows.filter(pk=read_id("after", raw)).values_list("tag", "plant_id").first()
            if last is None:
                raise BadInput("after", raw, "a plant of the block")
            rows = rows.filter(Q(tag__gt=last[0]) | Q(tag=last[0], plant_id__gt=last[1]))
        page = rows.order_by("tag", "plant_id")[:PLANTS_A_TIME]
        return Response(s.CurrentSerializer(page, many=True).data)


class BlockSummaryView(APIView):
    """A block in a few figures."""

    @extend_schema(
        operation_id="block_summary",
        responses=s.BlockSummarySerializer,
    )
    def get(self, request: Request, block_id: UUID) -> Response:
        actor = actor_of(request)
        return Response(block_summary(actor, blocks_visible_to(actor).get(pk=block_id)))


class BlockCarbonView(APIView):
    """Carbon of the trees that stand in a block."""

    @extend_schema(
        operation_id="block_carbon", responses={(200, "application/json"): {"$ref": REF + "CarbonTotal"}}
    )
    def get(self, request: Request, block_id: UUID) -> Response:
        actor = actor_of(request)
        return Response(block_carbon(actor, blocks_visible_to(actor).select_related("site").get(pk=block_id)))


class PlantsByTaxonView(APIView):
    """How many plants bear each name now, in the whole organisation or in one block."""

    @extend_schema(
        operation_id="plants_by_taxon",
        parameters=[OpenApiParameter("block", OpenApiTypes.UUID, description="only of this block")],
        responses={
            (200, "application/json"): {"type": "object", "additionalProperties": {"type": "integer"}}
        },
    )
    def get(self, request: Request) -> Response:
        actor = actor_of(request)
        raw = request.query_params.get("block", "")
        if not raw:
            return Response(plants_by_taxon(actor))
        block = blocks_visible_to(actor).get(pk=read_id("block", raw))
        return Response(plants_by_taxon(actor, block=block))


class PlantView(APIView):
    """One plant with its visits."""

    @extend_schema(operation_id="plant_read", responses=s.PlantSerializer)
    def get(self, request: Request, plant_id: UUID) -> Response:
        actor = actor_of(request)
        plant = plants_visible_to(actor).select_related("current").get(pk=plant_id)
        return Response(s.PlantSerializer(plant_shown(actor, plant)).data)


class MergeView(APIView):
    """Two records of one tree made one, and that taken back."""

    @extend_schema(operation_id="plant_merge", request=component("MergeIn"), responses=s.PlantSerializer)
    def post(self, request: Request, plant_id: UUID) -> Response:
        """This plant is a duplicate of another of the same site; a steward says so."""
        actor = actor_of(request)
        plant = plants_visible_to(actor).get(pk=plant_id)
        merged = merge_plants(actor=actor, plant=plant, given=request.data)
        into = plants_visible_to(actor).select_related("current").get(pk=merged.into_id)
        return Response(s.PlantSerializer(plant_shown(actor, into)).data)

    @extend_schema(operation_id="plant_unmerge", request=None, responses={204: None})
    def delete(self, request: Request, plant_id: UUID) -> Response:
        """The two count again, each for itself."""
        actor = actor_of(request)
        undo_merge(actor=actor, plant=plants_visible_to(actor).get(pk=plant_id))
        return Response(status=204)


def plant_shown(actor: Member, plant: Plant) -> dict[str, Any]:
    """A plant with all its visits, newest first, each entry marked whether it stands."""
    merged = duplicates_of([plant.id])
    duplicates = merged.get(plant.id, [])
    entries = [e for rows in entries_by_plant([plant.id, *duplicates]).values() for e in rows]
    standing = standing_entries(entries)
    live = {e.id for e in standing.live}
    by_visit: dict[UUID, list[dict[str, Any]]] = {}
    for e in sorted(entries, key=lambda e: (e.recorded_at, e.id)):
        by_visit.setdefault(e.visit_id, []).append(
            {
                "id": e.id,
                "kind": kind_of(e),
                **({"body": shown_body(e)} if e.retracts_id is None else {}),
                "observer": e.observer,
                "recorded_at": e.recorded_at,
                "received_at": e.received_at,
                "replaces": e.replaces_id,
                "retracts": e.retracts_id,
                "reason": e.reason,
                "entered_by": entered_by(e),
                "stands": e.id in live,
                "contested": e.id in standing.contested,
                "mine": e.author_id == actor.id,
                "by": e.author_id,
            }
        )
    visits = (
        visits_visible_to(actor)
        .filter(plant__in=[plant.id, *duplicates])
        .select_related(*OBSERVERS)
        .order_by("-local_date", "-observed_at", "-id")
    )
    shown = {
        name: getattr(plant, name)
        for name in (
            "id",
            "block_id",
            "form",
            "accuracy_m",
            "how_taken",
            "origin",
            "row_name",
            "row_position",
            "current",
        )
    }
    place = plant.place
    return {
        **shown,
        "lon": place.x if place else None,
        "lat": place.y if place else None,
        "merged_into": plant.merged_into_id,
        "duplicates": duplicates,
        "merged_on": last_merged(merged).get(plant.id),
        "visits": [_visit_shown(actor, v, by_visit) for v in visits],
    }


def _visit_shown(actor: Member, visit: Visit, by_visit: dict[UUID, list[dict[str, Any]]]) -> dict[str, Any]:
    names = (
        "id",
        "observer",
        "mode",
        "local_date",
        "observed_at",
        "stage",
        "setting",
        "origin",
        "light",
        "sex",
        "clock_doubtful",
    )
    shown = {n: getattr(visit, n) for n in names}
    return {
        **shown,
        "record": visit.plant_id,
        "entered_by": entered_by(visit),
        "mine": visit.author_id == actor.id,
        "entries": by_visit.get(visit.id, []),
    }


def entered_by(row: Visit | Entry) -> str:
    """Who entered it, where that is another than the observer named: a name typed in does not hide the
    author.
    """
    author = row.author.shown_name if row.author else ""
    return author if author != row.observer else ""


class OutboxView(APIView):
    """Where devices send what they saved. Whether an item can be stored is judged item by item, not here."""

    parser_classes = (AnyJsonParser,)

    @extend_schema(
        operation_id="outbox_receive", request=component("OutboxIn"), responses=s.AnswersSerializer
    )
    def post(self, request: Request) -> Response:
        """Judged item by item; sending the same again changes nothing."""
        batch = request.data if isinstance(request.data, dict) else {}
        answers = receive_outbox(
            actor=actor_of(request), items=batch.get("items"), sent_at=batch.get("sent_at")
        )
        return Response({"answers": answers})


class ChangesView(APIView):
    """What changed after a number."""

    @extend_schema(
        operation_id="changes_list",
        parameters=[OpenApiParameter("after", int)],
        responses=s.ChangesSerializer,
    )
    def get(self, request: Request) -> Response:
        raw = request.query_params.get("after", "0")
        if not (raw.isascii() and raw.isdigit()) or len(raw) > 18:
            raise BadInput("after", raw, "a whole number, the `last` of the answer before")
        rows = list(
            Change.objects.filter(
                organisation_id=actor_of(request).organisation_id, number__gt=int(raw)
            ).order_by("number")[: CHANGES_A_TIME + 1]
        )
        page = rows[:CHANGES_A_TIME]
        last = page[-1].number if page else int(raw)
        return Response(
            s.ChangesSerializer({"changes": page, "last": last, "more": len(rows) > CHANGES_A_TIME}).data
        )


class ImageParser(BaseParser):
    """The body is the picture."""

    media_type = "image/*"

    def parse(self, stream: Any, media_type: str | None = None, parser_context: Any = None) -> Any:
        return stream.read()


class PhotoView(APIView):
    """The file of a photograph, sent after its visit; idempotent by its hash."""

    parser_classes = (ImageParser,)

    @extend_schema(
        operation_id="photo_store",
        request={"image/jpeg": OpenApiTypes.BINARY},
        parameters=[
            OpenApiParameter(
                "strip", str, enum=["1"], description="of an app that did not: what is not the picture goes"
            )
        ],
        responses=s.PhotoStoredSerializer,
    )
    def put(self, request: Request, photo_id: UUID) -> Response:
        data = request.data if isinstance(request.data, bytes) else b""
        strip = request.query_params.get("strip") == "1"
        row = store_photo(actor=actor_of(request), photo_id=photo_id, data=data, strip=strip)
        told = {"id": photo_id, "sha256": row.sha256, "bytes": row.bytes}
        return Response({**told, "stored_sha256": row.stored_sha256 or row.sha256})

    @extend_schema(operation_id="photo_read", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, photo_id: UUID) -> FileResponse:
        actor = actor_of(request)
        row = photo_files_visible_to(actor).get(sha256=photo_recorded(actor, photo_id).sha256)
        return FileResponse(stored_file(row), content_type=row.media_type)
