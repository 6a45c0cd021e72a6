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
    PlotSerializer,
    SiteSerializer,
)
from apps.sites.selectors import blocks_visible_to, plots_visible_to, sites_visible_to
from apps.sites.services.make_block import change_block, make_block
from apps.sites.services.make_site import change_site, make_site
from apps.sites.services.set_conventions import set_conventions
from config.api_components import component
from config.errors import BadInput


class SitesView(APIView):
    """The organisation's sites."""

    @extend_schema(operation_id="sites_list", responses=SiteSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(SiteSerializer(sites_visible_to(actor_of(request)), many=True).data)

    @extend_schema(operation_id="site_make", request=component("SiteIn"), responses={201: SiteSerializer})
    def post(self, request: Request) -> Response:
        """A steward makes a site with its conventions."""
        made = make_site(actor=actor_of(request), given=request.data)
        return Response(SiteSerializer(made).data, status=status.HTTP_201_CREATED)


class SiteView(APIView):
    """One site."""

    @extend_schema(operation_id="site_change", request=component("SiteChange"), responses=SiteSerializer)
    def patch(self, request: Request, site_id: UUID) -> Response:
        """Changes what is given; the rest stays."""
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        return Response(SiteSerializer(change_site(actor=actor, site=site, given=request.data)).data)


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
    """The organisation's blocks."""

    @extend_schema(operation_id="blocks_list", responses=BlockSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(BlockSerializer(blocks_visible_to(actor_of(request)), many=True).data)


class BlockView(APIView):
    """One block."""

    @extend_schema(operation_id="block_read", responses=BlockSerializer)
    def get(self, request: Request, block_id: UUID) -> Response:
        return Response(BlockSerializer(blocks_visible_to(actor_of(request)).get(pk=block_id)).data)

    @extend_schema(operation_id="block_change", request=component("BlockChange"), responses=BlockSerializer)
    def patch(self, request: Request, block_id: UUID) -> Response:
        """Changes what is given; the rest stays."""
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        change_block(actor=actor, block=block, given=request.data)
        return Response(BlockSerializer(blocks_visible_to(actor).get(pk=block_id)).data)


class SiteBlocksView(APIView):
    """The blocks of a site."""

    @extend_schema(operation_id="block_make", request=component("BlockIn"), responses={201: BlockSerializer})
    def post(self, request: Request, site_id: UUID) -> Response:
        """A steward makes a block, by its boundary."""
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        made = make_block(actor=actor, site=site, given=request.data)
        return Response(
            BlockSerializer(blocks_visible_to(actor).get(pk=made.pk)).data, status=status.HTTP_201_CREATED
        )


class PlotsView(APIView):
    """The sample plots of a block."""

    @extend_schema(operation_id="block_plots", responses=PlotSerializer(many=True))
    def get(self, request: Request, block_id: UUID) -> Response:
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        return Response(PlotSerializer(plots_visible_to(actor).filter(block=block), many=True).data)
