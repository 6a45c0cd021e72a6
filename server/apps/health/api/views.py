"""Plant health of a site: at a glance, how a cause spread, status and holds of blocks, the station."""

from __future__ import annotations

import datetime
from uuid import UUID

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.health.api import serializers as s
from apps.health.at_a_glance import health_at_a_glance
from apps.health.selectors import in_short
from apps.health.services.lift_hold import lift_hold
from apps.health.services.set_biosecurity import set_biosecurity
from apps.health.services.take_station import take_station
from apps.health.spread import spread_of
from apps.organisations.permissions import actor_of
from apps.sites.selectors import blocks_visible_to, sites_visible_to
from config.api_components import component
from jubark_core.checks import require_date
from jubark_core.signs.case import cause_id

ON = OpenApiParameter("on", OpenApiTypes.DATE, required=True)


class SiteHealthView(APIView):
    """What is present, suspected and expected on a site; holds, hosts, samples, the station."""

    @extend_schema(operation_id="site_health", parameters=[ON], responses=s.SiteHealthSerializer)
    def get(self, request: Request, site_id: UUID) -> Response:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        on: datetime.date = require_date("on", request.query_params.get("on"))
        blocks = list(blocks_visible_to(actor).filter(site=site))
        return Response(s.SiteHealthSerializer(health_at_a_glance(actor, site, blocks, on)).data)


class SpreadView(APIView):
    """Plants that have or had a cause, with the day it was first held."""

    @extend_schema(operation_id="site_spread", responses=s.SpreadSerializer(many=True))
    def get(self, request: Request, site_id: UUID, cause: str) -> Response:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        found = spread_of(actor, list(blocks_visible_to(actor).filter(site=site)), cause_id("cause", cause))
        return Response(s.SpreadSerializer(found, many=True).data)


class BiosecurityView(APIView):
    """The biosecurity status of a block."""

    @extend_schema(
        operation_id="block_biosecurity_set",
        request=component("BiosecurityIn"),
        responses={201: s.BiosecuritySerializer},
    )
    def post(self, request: Request, block_id: UUID) -> Response:
        """A steward sets it, with its cause and what lifts it."""
        actor = actor_of(request)
        block = blocks_visible_to(actor).get(pk=block_id)
        made = set_biosecurity(actor=actor, block=block, given=request.data)
        return Response(s.BiosecuritySerializer(made).data, status=status.HTTP_201_CREATED)


class HoldsView(APIView):
    """Movement holds of a block: they begin with a suspicion."""

    @extend_schema(
        operation_id="block_hold_lift",
        request=component("HoldEndIn"),
        responses={201: s.HoldLiftedSerializer},
    )
    def post(self, request: Request, block_id: UUID) -> Response:
        """A steward ends one, by the reference of who decided it."""
        actor = actor_of(request)
        block = blocks_visible_to(actor).select_related("site").get(pk=block_id)
        made = lift_hold(actor=actor, block=block, given=request.data)
        return Response(s.HoldLiftedSerializer(made).data, status=status.HTTP_201_CREATED)


class StationView(APIView):
    """The weather station of a site."""

    @extend_schema(
        operation_id="site_station_take",
        request={
            "application/json": {
                "type": "object",
                "required": ["name", "csv"],
                "properties": {"name": {"type": "string"}, "csv": {"type": "string"}},
                "additionalProperties": False,
            }
        },
        responses={201: s.StationSerializer},
    )
    def post(self, request: Request, site_id: UUID) -> Response:
        """A steward reads in its days from CSV: date, min_c, max_c (or min_f, max_f)."""
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        made = take_station(actor=actor, site=site, given=request.data)
        return Response(s.StationSerializer(in_short(made)).data, status=status.HTTP_201_CREATED)
