"""Naming over HTTP: the same code as the command line."""

from __future__ import annotations

import datetime
from uuid import UUID

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.crews.permissions import actor_of
from apps.ground.selectors import blocks_visible_to
from apps.naming.api import serializers as s
from apps.naming.vocabulary import vocabulary
from apps.stems.selectors import current_visible_to
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.names import find_names
from jubark_core.naming.engine import name_plant
from jubark_core.season.calendar import organ_calendar
from jubark_core.season.windows import Place

MOST_CASES = 20


class NameView(APIView):
    """POST a case, get the answer: the contract of the naming engine."""

    @extend_schema(operation_id="plant_name", request=OpenApiTypes.OBJECT, responses=s.AnswerToCaseSerializer)
    def post(self, request: Request) -> Response:
        """A case gives an answer, a list of up to 20 cases a list of answers; a bad case gives 400 naming place, value and what is allowed."""
        flora = shipped_flora()
        if isinstance(request.data, list):
            if len(request.data) > MOST_CASES:
                raise InputError("cases", len(request.data), f"at most {MOST_CASES} cases")
            return Response([name_plant(case, flora) for case in request.data])
        return Response(name_plant(request.data, flora))


class NamesView(APIView):
    """Names as people write them."""

    @extend_schema(operation_id="names_find", parameters=[OpenApiParameter("words", str)], responses=s.NameFoundSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(find_names(request.query_params.get("words", "")[:100], shipped_flora()))


class VocabularyView(APIView):
    """Characters, states, names and fixed words: kept on the device."""

    @extend_schema(operation_id="vocabulary_read", responses=s.VocabularySerializer)
    def get(self, request: Request) -> Response:
        return Response(vocabulary())


class SeasonView(APIView):
    """What shows when on a block: the season ring."""

    @extend_schema(
        operation_id="block_season", parameters=[OpenApiParameter("on", OpenApiTypes.DATE)], responses=s.ShowingSerializer(many=True)
    )
    def get(self, request: Request, block_id: UUID) -> Response:
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        raw = request.query_params.get("on", "")
        try:
            on = datetime.date.fromisoformat(raw)
        except ValueError:
            raise InputError("on", raw, "a date as YYYY-MM-DD") from None
        counts: dict[str, int] = {}
        for taxon in current_visible_to(actor).filter(block=block).exclude(taxon="").values_list("taxon", flat=True):
            counts[taxon] = counts.get(taxon, 0) + 1
        ground = block.ground
        return Response(organ_calendar(shipped_flora(), Place(ground.lat, ground.lon, ground.elevation_m), on, counts))
