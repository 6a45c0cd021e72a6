"""Naming over HTTP: the same code as the command line."""

from __future__ import annotations

import datetime
from uuid import UUID

from django.http import HttpResponse
from django.utils.cache import patch_cache_control
from django.utils.decorators import method_decorator
from django.views.decorators.gzip import gzip_page
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.core_api.api import serializers as s
from apps.core_api.vocabulary import drawings, notes, vocabulary
from apps.organisations.permissions import actor_of
from apps.plants.selectors import plants_by_taxon
from apps.sites.models import Block
from apps.sites.selectors import blocks_visible_to
from config.api_components import component
from jubark_core.checks import require_date, require_one_of
from jubark_core.errors import InputError
from jubark_core.flora.listing import listed
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.names import find_names, kinds_sharing
from jubark_core.flora.portrait import portrait
from jubark_core.flora.side_by_side import side_by_side
from jubark_core.naming.engine import name_plant, not_separated_from
from jubark_core.plates.draw import draw
from jubark_core.records.typed_schema import REF
from jubark_core.records.upgrade import upgraded
from jubark_core.season.calendar import organ_calendar
from jubark_core.season.windows import Place
from jubark_core.season.year import month_sheet

MOST_CASES = 20
PLATE_KEPT_S = 3600
BLOCK = OpenApiParameter("block", OpenApiTypes.UUID, description="the block whose season counts")


def date_asked(request: Request) -> datetime.date:
    """The date of the `on` parameter. Raises InputError."""
    return require_date("on", request.query_params.get("on", ""))


def place_asked(request: Request) -> Place:
    """The place of the block of the `block` parameter, or the home site's. Raises InputError; another
    organisation's block is unknown.
    """
    raw = request.query_params.get("block", "")
    if not raw:
        return Place()
    try:
        block_id = UUID(raw)
    except ValueError:
        raise InputError("block", raw, "the id of a block") from None
    return place_of(blocks_visible_to(actor_of(request)).get(pk=block_id))


def place_of(block: Block) -> Place:
    """Where a block's site lies."""
    return Place(block.site.lat, block.site.lon, block.site.elevation_m)


class NameView(APIView):
    """POST a case, get the answer: the contract of the naming engine."""

    @extend_schema(
        operation_id="plant_name",
        parameters=[
            OpenApiParameter(
                "look_ahead",
                str,
                enum=["yes", "no"],
                description="no: the ranking alone, in a third of the time",
            )
        ],
        request=OpenApiTypes.OBJECT,
        responses=s.AnswerToCaseSerializer,
    )
    def post(self, request: Request) -> Response:
        """A case gives an answer, a list of up to 20 cases a list of answers; a bad case gives 400 naming
        place, value and what is allowed.
        """
        flora = shipped_flora()
        look_ahead = (
            require_one_of("look_ahead", request.query_params.get("look_ahead", "yes"), ("yes", "no"))
            == "yes"
        )
        if isinstance(request.data, list):
            if len(request.data) > MOST_CASES:
                raise InputError("cases", len(request.data), f"at most {MOST_CASES} cases")
            return Response([name_plant(case, flora, look_ahead) for case in request.data])
        return Response(name_plant(request.data, flora, look_ahead))


class NotSeparatedFromView(APIView):
    """What a name that one knows is still taken for."""

    @extend_schema(
        operation_id="not_separated_from", request=s.ClaimedSerializer, responses=s.RivalSerializer(many=True)
    )
    def post(self, request: Request) -> Response:
        """A case and the taxon it is held to be: its rivals with the looks that would part them; empty when
        there are none.
        """
        given = s.ClaimedSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        return Response(
            not_separated_from(given.validated_data["case"], given.validated_data["taxon"], shipped_flora())
        )


class UpgradeView(APIView):
    """A record that an earlier version of the app made, as the current one has it."""

    @extend_schema(
        operation_id="core_upgrade",
        request=component("UpgradeIn"),
        responses={(200, "application/json"): {"$ref": REF + "UpgradeOut"}},
    )
    def post(self, request: Request) -> Response:
        return Response(upgraded(request.data))


class NamesView(APIView):
    """Names as people write them."""

    @extend_schema(
        operation_id="names_find",
        parameters=[OpenApiParameter("words", str)],
        responses=s.NameFoundSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        words, flora = request.query_params.get("words", "")[:100], shipped_flora()
        sharing = set(kinds_sharing(words, flora))
        return Response([{**row, "shared": row["taxon"] in sharing} for row in find_names(words, flora)])


class VocabularyView(APIView):
    """Characters, states, names and fixed words: kept on the device."""

    @extend_schema(operation_id="vocabulary_read", responses=s.VocabularySerializer)
    def get(self, request: Request) -> Response:
        return Response(vocabulary())


class SeasonView(APIView):
    """What shows when on a block: the season ring."""

    @extend_schema(
        operation_id="block_season",
        parameters=[OpenApiParameter("on", OpenApiTypes.DATE)],
        responses=s.ShowingSerializer(many=True),
    )
    def get(self, request: Request, block_id: UUID) -> Response:
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        counts = plants_by_taxon(actor, block=block)
        return Response(organ_calendar(shipped_flora(), place_of(block), date_asked(request), counts))


class MonthSheetView(APIView):
    """What the taxa of a block show in a month, and how they are told then: the sheet for a walk."""

    @extend_schema(
        operation_id="block_month_sheet",
        parameters=[
            OpenApiParameter("on", OpenApiTypes.DATE, required=True, description="any day of the month")
        ],
        responses=s.MonthRowSerializer(many=True),
    )
    def get(self, request: Request, block_id: UUID) -> Response:
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        on = date_asked(request)
        return Response(
            month_sheet(
                shipped_flora(), place_of(block), plants_by_taxon(actor, block=block), on.year, on.month
            )
        )


@method_decorator(gzip_page, name="dispatch")
class DrawingsView(APIView):
    """Answer tiles: a drawing for every state that can be drawn honestly. Kept on the device."""

    @extend_schema(operation_id="drawings_read", responses=s.DrawingsSerializer)
    def get(self, request: Request) -> Response:
        return Response({"version": shipped_flora().version, "drawings": drawings()})


class PlateView(APIView):
    """A plate of a taxon, as an SVG file: its leaf, twig, bark, fruit, flower or habit on a day."""

    @extend_schema(
        operation_id="plate_read",
        parameters=[
            OpenApiParameter("on", OpenApiTypes.DATE, required=True),
            OpenApiParameter("stage", str),
            BLOCK,
        ],
        responses={(200, "image/svg+xml"): OpenApiTypes.STR},
    )
    def get(self, request: Request, taxon: str, part: str) -> HttpResponse:
        stage = request.query_params.get("stage", "mature")
        svg = draw(shipped_flora(), taxon, part, date_asked(request), place_asked(request), stage=stage)
        answer = HttpResponse(svg, content_type="image/svg+xml")
        patch_cache_control(answer, private=True, max_age=PLATE_KEPT_S)
        return answer


@method_decorator(gzip_page, name="dispatch")
class SpeciesListView(APIView):
    """The flora as a list to narrow: form, areas, what shows on the day, stems on one's own sites."""

    @extend_schema(
        operation_id="species_list",
        parameters=[OpenApiParameter("on", OpenApiTypes.DATE, required=True), BLOCK],
        responses=s.ListedSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        plants = plants_by_taxon(actor_of(request))
        rows = listed(shipped_flora(), date_asked(request), place_asked(request))
        return Response([{**row, "plants": plants.get(row["taxon"], 0)} for row in rows])


class SpeciesSeasonView(APIView):
    """The season ring of one taxon."""

    @extend_schema(
        operation_id="species_season",
        parameters=[OpenApiParameter("on", OpenApiTypes.DATE, required=True), BLOCK],
        responses=s.ShowingSerializer(many=True),
    )
    def get(self, request: Request, taxon: str) -> Response:
        flora = shipped_flora()
        if taxon not in flora.evergreen:
            raise InputError("taxon", taxon, "a taxon the flora describes")
        return Response(organ_calendar(flora, place_asked(request), date_asked(request), {taxon: 1}))


class SpeciesView(APIView):
    """A taxon as it is told: names, facts, what it shows organ by organ, what it is taken for."""

    @extend_schema(operation_id="species_read", responses=s.SpeciesSerializer)
    def get(self, request: Request, taxon: str) -> Response:
        return Response(portrait(shipped_flora(), taxon, notes().get(taxon, "")))


class SideBySideView(APIView):
    """Two to four taxa: only what differs, first what can be seen on the day."""

    @extend_schema(
        operation_id="side_by_side_read",
        parameters=[
            OpenApiParameter("taxa", str, required=True, description="ids, separated by commas"),
            OpenApiParameter("on", OpenApiTypes.DATE, required=True),
            BLOCK,
        ],
        responses=s.SideBySideSerializer,
    )
    def get(self, request: Request) -> Response:
        taxa = [t for t in request.query_params.get("taxa", "").split(",") if t]
        return Response(side_by_side(shipped_flora(), taxa, date_asked(request), place_asked(request)))
