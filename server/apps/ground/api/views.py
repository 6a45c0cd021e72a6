"""Grounds and blocks."""

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.crews.permissions import actor_of
from apps.ground.api.serializers import (
    BlockSerializer,
    ConventionsSerializer,
    GroundSerializer,
    OpenBlockSerializer,
    PlotSerializer,
)
from apps.ground.selectors import blocks_visible_to, grounds_visible_to, plots_visible_to
from apps.ground.services.open_block import open_block
from apps.ground.services.set_conventions import set_conventions


class GroundsView(APIView):
    """The crew's grounds."""

    @extend_schema(operation_id="grounds_list", responses=GroundSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(GroundSerializer(grounds_visible_to(actor_of(request)), many=True).data)


class GroundConventionsView(APIView):
    """How the figures of a ground are taken from now on."""

    @extend_schema(
        operation_id="ground_conventions", request=ConventionsSerializer, responses=GroundSerializer
    )
    def patch(self, request: Request, ground_id: UUID) -> Response:
        actor = actor_of(request)
        ground = grounds_visible_to(actor).get(pk=ground_id)
        given = ConventionsSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        return Response(
            GroundSerializer(set_conventions(actor=actor, ground=ground, changes=given.validated_data)).data
        )


class BlocksView(APIView):
    """The crew's blocks; a steward opens new ones."""

    @extend_schema(operation_id="blocks_list", responses=BlockSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(BlockSerializer(blocks_visible_to(actor_of(request)), many=True).data)

    @extend_schema(operation_id="block_open", request=OpenBlockSerializer, responses={201: BlockSerializer})
    def post(self, request: Request) -> Response:
        given = OpenBlockSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        actor = actor_of(request)
        values = given.validated_data
        ground = grounds_visible_to(actor).get(pk=values.pop("ground"))
        block = open_block(actor=actor, ground=ground, **values)
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
