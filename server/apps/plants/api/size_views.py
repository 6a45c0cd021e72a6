"""What a plant's record says of its size: what a new figure is held against, and what follows."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.permissions import actor_of
from apps.plants.api import serializers as s
from apps.plants.from_size import from_size
from apps.plants.known_figures import known_figures
from apps.plants.selectors import plants_visible_to
from jubark_core.checks import require_date
from jubark_core.records.typed_schema import REF


class KnownFiguresView(APIView):
    """What a new figure of a plant is held against: asked for only where one is being taken."""

    @extend_schema(
        operation_id="plant_known_figures",
        parameters=[
            OpenApiParameter("on", OpenApiTypes.DATE, required=True, description="figures before this day"),
            OpenApiParameter("taxon", str, description="whose neighbours count; without it, the name now"),
        ],
        responses={(200, "application/json"): {"$ref": REF + "KnownOfPlant"}},
    )
    def get(self, request: Request, plant_id: UUID) -> Response:
        actor = actor_of(request)
        plant = plants_visible_to(actor).get(pk=plant_id)
        on = require_date("on", request.query_params.get("on", ""))
        return Response(known_figures(actor, plant, on, request.query_params.get("taxon", "")[:80]))


class FromSizeView(APIView):
    """Growth, zones, carbon, crown and change of one plant."""

    @extend_schema(operation_id="plant_from_size", responses=s.FromSizeSerializer)
    def get(self, request: Request, plant_id: UUID) -> Response:
        actor = actor_of(request)
        plant = plants_visible_to(actor).select_related("current", "block__site").get(pk=plant_id)
        return Response(s.FromSizeSerializer(from_size(actor, plant)).data)
