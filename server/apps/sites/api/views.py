"""Sites and blocks."""

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.permissions import actor_of
from apps.sites.api.serializers import (
    BlockSerializer,
    OpenBlockSerializer,
    PlotSerializer,
    SiteSerializer,
)
from apps.sites.selectors import blocks_visible_to, plots_visible_to, sites_visible_to
from apps.sites.services.open_block import open_block
from apps.sites.services.set_conventions import set_conventions
from config.api_components import component
from config.errors import BadInput


class SitesView(APIView):
    """The organisation's sites."""

    @extend_schema(operation_id="sites_list", responses=SiteSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(SiteSerializer(sites_visible_to(actor_of(request)), many=True).data)


class SiteConventionsView(APIView):
    """How the figures of a site are taken from now on."""

    @extend_schema(
        operation_id="site_conventions", request=component("ConventionsIn"), responses=SiteSerializer
    )
    def patch(self, request: Request, site_id: UUID) -> Response:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        if not isinstance(request.data, dict) or not request.data:
            raise BadInput("body", request.data, "an object of conventions to change")
        return Response(SiteSerializer(set_conventions(actor=actor, site=site, changes=request.data)).data)


class BlocksView(APIView):
    """The organisation's blocks; a steward opens new ones."""

    @extend_schema(operation_id="blocks_list", responses=BlockSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(BlockSerializer(blocks_visible_to(actor_of(request)), many=True).data)

    @extend_schema(operation_id="block_open", request=OpenBlockSerializer, responses={201: BlockSerializer})
    def post(self, request: Request) -> Response:
        given = OpenBlockSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        actor = actor_of(request)
        values = given.validated_data
        site = sites_visible_to(actor).get(pk=values.pop("site"))
        block = open_block(actor=actor, site=site, **values)
        return Response(
            BlockSerializer(blocks_visible_to(actor).get(pk=block.pk)).data, status=status.HTTP_201_CREATED
        )


class BlockView(APIView):
    """One block."""

    @extend_schema(operation_id="block_read", responses=BlockSerializer)
    def get(self, request: Request, block_id: UUID) -> Response:
        return Response(BlockSerializer(blocks_visible_to(actor_of(request)).get(pk=block_id)).data)


class PlotsView(APIView):
    """The sample plots of a block."""

    @extend_schema(operation_id="block_plots", responses=PlotSerializer(many=True))
    def get(self, request: Request, block_id: UUID) -> Response:
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        return Response(PlotSerializer(plots_visible_to(actor).filter(block=block), many=True).data)
