"""Targets, the owner's table, coverage, reports, and the plan of a day."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any
from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.inspections.api import serializers as s
from apps.inspections.coverage_report import coverage_report, with_names
from apps.inspections.report_pdf import report_pdf
from apps.inspections.selectors import as_geojson, regime_known, reports_visible_to, targets_visible_to
from apps.inspections.services.freeze_report import freeze_report
from apps.inspections.services.set_regime import set_regime
from apps.inspections.services.set_target import change_target, end_target, make_target
from apps.inspections.services.take_targets import take_targets
from apps.inspections.storm import storm_looks
from apps.inspections.today import Asked, plan_of_day
from apps.organisations.audit import note
from apps.organisations.models import Member
from apps.organisations.permissions import actor_of
from apps.sites.models import Block, Site
from apps.sites.selectors import blocks_visible_to, sites_visible_to
from config.api_components import component
from config.errors import BadInput
from jubark_core.checks import require_between, require_date
from jubark_core.records.fields import write
from jubark_core.records.shapes import Id
from jubark_core.records.typed_schema import REF

ON = OpenApiParameter("on", OpenApiTypes.DATE, required=True, description="the last day that counts")
BLOCK = OpenApiParameter(
    "block", OpenApiTypes.UUID, many=True, description="of the site; none: every block of it"
)
KNOWN = OpenApiParameter(
    "known", str, enum=["then", "now"], description="what was known at the end of that day, or is now"
)
REGIME = {(200, "application/json"): {"$ref": REF + "RegimeIn"}}


class SiteTargetsView(APIView):
    """What trees of a site may fall on."""

    @extend_schema(operation_id="site_targets", responses=s.TargetSerializer(many=True))
    def get(self, request: Request, site_id: UUID) -> Response:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        return Response(s.TargetSerializer(targets_visible_to(actor).filter(site=site), many=True).data)

    @extend_schema(
        operation_id="target_make", request=component("TargetIn"), responses={201: s.TargetSerializer}
    )
    def post(self, request: Request, site_id: UUID) -> Response:
        """A steward sets a target."""
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        made = make_target(actor=actor, site=site, given=request.data)
        return Response(s.TargetSerializer(made).data, status=status.HTTP_201_CREATED)


class TargetsFileView(APIView):
    """The targets of a site as GeoJSON, out and in."""

    @extend_schema(
        operation_id="site_targets_as_geojson",
        responses={(200, "application/geo+json"): OpenApiTypes.OBJECT},
    )
    def get(self, request: Request, site_id: UUID) -> HttpResponse:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        note(actor, "export_read", thing=site.id, name=f"targets of {site.name}", format="GeoJSON")
        whole = as_geojson(targets_visible_to(actor).filter(site=site))
        answer = HttpResponse(whole, content_type="application/geo+json")
        answer["Content-Disposition"] = 'attachment; filename="targets.geojson"'
        return answer

    @extend_schema(
        operation_id="site_targets_take",
        request={"application/json": OpenApiTypes.OBJECT},
        responses={201: s.TargetSerializer(many=True)},
    )
    def post(self, request: Request, site_id: UUID) -> Response:
        """A steward takes every target of a file, or none."""
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        made = take_targets(actor=actor, site=site, given=request.data)
        return Response(s.TargetSerializer(made, many=True).data, status=status.HTTP_201_CREATED)


class TargetView(APIView):
    """One target."""

    @extend_schema(
        operation_id="target_change", request=component("TargetChange"), responses=s.TargetSerializer
    )
    def patch(self, request: Request, target_id: UUID) -> Response:
        """Changes what is given; the rest stays."""
        actor = actor_of(request)
        target = targets_visible_to(actor).select_related("site").get(thing=target_id)
        changed = change_target(actor=actor, target=target, given=request.data)
        return Response(s.TargetSerializer(changed).data)

    @extend_schema(operation_id="target_end", request=None, responses={204: None})
    def delete(self, request: Request, target_id: UUID) -> Response:
        """Taken off; earlier reports still know it."""
        actor = actor_of(request)
        end_target(actor=actor, target=targets_visible_to(actor).get(thing=target_id))
        return Response(status=status.HTTP_204_NO_CONTENT)


class RegimeView(APIView):
    """The owner's table of inspections."""

    @extend_schema(operation_id="site_regime", responses=REGIME)
    def get(self, request: Request, site_id: UUID) -> Response:
        site = sites_visible_to(actor_of(request)).get(pk=site_id)
        return Response(write(regime_known(site, timezone.now())[0]))

    @extend_schema(operation_id="site_regime_set", request=component("RegimeIn"), responses=REGIME)
    def put(self, request: Request, site_id: UUID) -> Response:
        """A steward sets it, whole."""
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        return Response(write(set_regime(actor=actor, site=site, given=request.data)))


class CoverageView(APIView):
    """Of each tree of a site, when it was looked at, by whom, at which level, and what is overdue."""

    @extend_schema(
        operation_id="site_coverage", parameters=[ON, BLOCK, KNOWN], responses=s.CoverageReportSerializer
    )
    def get(self, request: Request, site_id: UUID) -> Response:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        on = _day(request)
        known = request.query_params.get("known", "then")
        if known not in ("then", "now"):
            raise BadInput("known", known, "then or now")
        found = coverage_report(
            site, _blocks(actor, site, request), on, timezone.now() if known == "now" else None
        )
        return Response(s.CoverageReportSerializer(with_names(found)).data)


class SiteReportsView(APIView):
    """Reports of a site."""

    @extend_schema(operation_id="site_reports", responses=s.ReportSerializer(many=True))
    def get(self, request: Request, site_id: UUID) -> Response:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        return Response(s.ReportSerializer(reports_visible_to(actor).filter(site=site), many=True).data)

    @extend_schema(
        operation_id="report_freeze", request=component("ReportIn"), responses={201: s.ReportSerializer}
    )
    def post(self, request: Request, site_id: UUID) -> Response:
        """A surveyor makes a report; it is numbered and never changes."""
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        made = freeze_report(actor=actor, site=site, given=request.data)
        return Response(s.ReportSerializer(made).data, status=status.HTTP_201_CREATED)


class ReportView(APIView):
    """A report as it was made."""

    @extend_schema(operation_id="report_read", responses=s.CoverageReportSerializer)
    def get(self, request: Request, report_id: UUID) -> Response:
        report = reports_visible_to(actor_of(request)).get(pk=report_id)
        return Response(s.CoverageReportSerializer(with_names(report.body)).data)


class ReportPdfView(APIView):
    """A report as PDF."""

    @extend_schema(operation_id="report_as_pdf", responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    def get(self, request: Request, report_id: UUID) -> HttpResponse:
        actor = actor_of(request)
        report = reports_visible_to(actor).get(pk=report_id)
        note(actor, "export_read", thing=report.id, name=f"report {report.number}", format="PDF")
        answer = HttpResponse(report_pdf(report), content_type="application/pdf")
        answer["Content-Disposition"] = f'attachment; filename="report-{report.number}.pdf"'
        return answer


class StormView(APIView):
    """What was seen of the trees of a block since a storm."""

    @extend_schema(
        operation_id="block_storm",
        parameters=[
            OpenApiParameter("since", OpenApiTypes.DATE, required=True, description="the day of the storm")
        ],
        responses=s.StormLookSerializer(many=True),
    )
    def get(self, request: Request, block_id: UUID) -> Response:
        block = blocks_visible_to(actor_of(request)).get(pk=block_id)
        since = require_date("since", request.query_params.get("since", ""))
        looks: Any = storm_looks(block, since)
        return Response(s.StormLookSerializer(looks, many=True).data)


class DayView(APIView):
    """The plan of a day on a site."""

    @extend_schema(
        operation_id="site_day",
        parameters=[
            ON,
            BLOCK,
            OpenApiParameter("minutes", float, description="how long the day is; 420 where nothing is said"),
            OpenApiParameter("remeasure_years", int, description="a diameter older than this is taken again"),
        ],
        responses=s.DaySerializer,
    )
    def get(self, request: Request, site_id: UUID) -> Response:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        asked = Asked(
            on=_day(request),
            minutes=_number(request, "minutes", 420, 15, 900),
            remeasure_years=int(_number(request, "remeasure_years", 5, 1, 50)),
        )
        return Response(s.DaySerializer(plan_of_day(actor, site, _blocks(actor, site, request), asked)).data)


def _day(request: Request) -> datetime.date:
    return require_date("on", request.query_params.get("on", ""))


def _number(request: Request, name: str, usual: float, low: float, high: float) -> float:
    raw = request.query_params.get(name, "")
    if not raw:
        return usual
    try:
        value = float(raw)
    except ValueError:
        raise BadInput(name, raw, f"a number from {low} to {high}") from None
    return require_between(name, value, low, high)


def _blocks(actor: Member, site: Site, request: Request) -> Sequence[Block]:
    """The blocks that were asked for, every one of the site where none was. An unknown one is a 404."""
    own = blocks_visible_to(actor).filter(site=site)
    wanted = [Id().read("block", raw, {}) for raw in request.query_params.getlist("block")]
    return [own.get(pk=pk) for pk in wanted] if wanted else list(own)
