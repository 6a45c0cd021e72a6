"""Size and condition over HTTP: the core's arithmetic, before and after a visit is kept."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.permissions import actor_of
from apps.plants.api import serializers as s
from apps.plants.from_size import from_size, size_plausibility
from apps.plants.selectors import plants_visible_to
from jubark_core.condition.risk import worksheet
from jubark_core.condition.scores import condition
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.size.compute import compute
from jubark_core.size.space import require_grown, space_check


class ComputeView(APIView):
    """The figure that follows from raw readings, before anything is kept."""

    @extend_schema(
        operation_id="size_compute", request=s.ComputeRequestSerializer, responses=s.ComputedSerializer
    )
    def post(self, request: Request) -> Response:
        given = s.ComputeRequestSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        return Response(compute(**given.validated_data))


class PlausibilityView(APIView):
    """What speaks against a new figure. The last visit's figure is told here, and so only once a new one is
    in.
    """

    @extend_schema(
        operation_id="size_plausibility",
        request=s.PlausibilityRequestSerializer,
        responses=s.PlausibilitySerializer,
    )
    def post(self, request: Request) -> Response:
        given = s.PlausibilityRequestSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        values = dict(given.validated_data)
        plant = values.pop("plant", None)
        return Response(s.PlausibilitySerializer(size_plausibility(actor_of(request), plant, values)).data)


class FromSizeView(APIView):
    """Growth, zones, carbon, crown and change of one plant."""

    @extend_schema(operation_id="plant_from_size", responses=s.FromSizeSerializer)
    def get(self, request: Request, plant_id: UUID) -> Response:
        actor = actor_of(request)
        plant = plants_visible_to(actor).select_related("current", "block__site").get(pk=plant_id)
        return Response(s.FromSizeSerializer(from_size(actor, plant)).data)


class SpaceView(APIView):
    """Does the grown plant fit: before planting, and for what stands."""

    @extend_schema(
        operation_id="size_space", request=s.SpaceRequestSerializer, responses=s.SpaceRowSerializer(many=True)
    )
    def post(self, request: Request) -> Response:
        given = s.SpaceRequestSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        taxon = given.validated_data["taxon"]
        node = shipped_flora().taxa.get(taxon)
        if node is None:
            raise InputError("taxon", taxon, "a taxon of the flora")
        return Response(space_check(*require_grown(node, taxon), given.validated_data["things"]))


class ScoreView(APIView):
    """Condition from the grades of its parts."""

    @extend_schema(
        operation_id="condition_score", request=s.ScoreRequestSerializer, responses=s.ScoreSerializer
    )
    def post(self, request: Request) -> Response:
        given = s.ScoreRequestSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        return Response(condition(given.validated_data["parts"], given.validated_data["leafless"]))


class RiskView(APIView):
    """A risk worksheet by the published matrices."""

    @extend_schema(operation_id="condition_risk", request=s.RiskRequestSerializer, responses=s.RiskSerializer)
    def post(self, request: Request) -> Response:
        given = s.RiskRequestSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        values = dict(given.validated_data)
        return Response(s.RiskSerializer(worksheet(values.pop("rows"), **values)).data)
