"""Work of a site: proposals and jobs, crews and rates, the year plan, the budget, and what goes out."""

from __future__ import annotations

import datetime
from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.audit import note
from apps.organisations.models import Member
from apps.organisations.permissions import actor_of
from apps.plants.selectors import plants_visible_to
from apps.sites.models import Site
from apps.sites.selectors import blocks_visible_to, sites_visible_to
from apps.work.api import serializers as s
from apps.work.case_of_tree import around_of
from apps.work.jobs import work_of_site
from apps.work.outputs.icalendar_file import icalendar_file
from apps.work.outputs.sheet import sheets_of
from apps.work.outputs.sheets_pdf import sheets_pdf
from apps.work.outputs.tender import tender
from apps.work.planting import planting_of
from apps.work.selectors import look_ups_visible_to, plan_of, plan_runs_visible_to, settings_of
from apps.work.services.look_ups import make_look_up, withdraw_look_up
from apps.work.services.move_job import move_job
from apps.work.services.plan_year import ask_for_plan, cancel_plan
from apps.work.services.set_areas import set_areas
from apps.work.services.set_work_settings import set_work_settings
from apps.work.spending import spending_of
from apps.work.to_look_up import to_look_up
from config.api_components import component
from config.errors import BadInput
from jubark_core.checks import require_between, require_date
from jubark_core.records.fields import write
from jubark_core.records.shapes import Id
from jubark_core.records.typed_schema import REF

ON = OpenApiParameter("on", OpenApiTypes.DATE, required=True)
BLOCK = OpenApiParameter("block", OpenApiTypes.UUID, description="of the site; none: every block of it")
JOB = OpenApiParameter("job", OpenApiTypes.UUID, many=True, description="open jobs; none: every one of them")
SETTINGS = {(200, "application/json"): {"$ref": REF + "WorkSettingsIn"}}


def _site(request: Request, site_id: UUID) -> tuple[Member, Site]:
    actor = actor_of(request)
    return actor, sites_visible_to(actor).get(pk=site_id)


def _on(request: Request) -> datetime.date:
    return require_date("on", request.query_params.get("on"))


class SiteWorkView(APIView):
    """What the files of the trees propose, and where each job stands."""

    @extend_schema(operation_id="site_work", parameters=[ON, BLOCK], responses=s.SiteWorkSerializer)
    def get(self, request: Request, site_id: UUID) -> Response:
        actor, site = _site(request, site_id)
        on = _on(request)
        blocks = list(blocks_visible_to(actor).filter(site=site))
        if wanted := request.query_params.get("block"):
            blocks = [b for b in blocks if str(b.id) == wanted]
            if not blocks:
                raise BadInput("block", wanted, "a block of this site")
        return Response(s.SiteWorkSerializer(work_of_site(actor, site, blocks, on)).data)


class WorkSettingsView(APIView):
    """Crews, licences, weather, rates and money."""

    @extend_schema(operation_id="work_settings", responses=SETTINGS)
    def get(self, request: Request, site_id: UUID) -> Response:
        _, site = _site(request, site_id)
        return Response(write(settings_of(site)))

    @extend_schema(operation_id="work_settings_set", request=component("WorkSettingsIn"), responses=SETTINGS)
    def put(self, request: Request, site_id: UUID) -> Response:
        """A steward sets them, whole."""
        actor, site = _site(request, site_id)
        return Response(write(set_work_settings(actor=actor, site=site, given=request.data)))


class LookUpsView(APIView):
    """Evidence that covers a site, blocks, a row or a list of trees."""

    @extend_schema(operation_id="look_ups", responses=s.LookUpSerializer(many=True))
    def get(self, request: Request, site_id: UUID) -> Response:
        """The newest first; what was withdrawn stays to be read."""
        actor, site = _site(request, site_id)
        rows = look_ups_visible_to(actor).filter(site=site).select_related("made_by")
        return Response(s.LookUpSerializer(rows, many=True).data)

    @extend_schema(
        operation_id="look_up_make", request=component("LookUpIn"), responses={201: s.LookUpSerializer}
    )
    def post(self, request: Request, site_id: UUID) -> Response:
        """A steward tells it once for all of them."""
        actor, site = _site(request, site_id)
        made = make_look_up(actor=actor, site=site, given=request.data)
        return Response(s.LookUpSerializer(made).data, status=status.HTTP_201_CREATED)


class LookUpView(APIView):
    """One of them."""

    @extend_schema(operation_id="look_up_withdraw", request=s.ReasonSerializer, responses={204: None})
    def post(self, request: Request, site_id: UUID, look_up_id: UUID) -> Response:
        """A steward withdraws it with a reason: it closes nothing any more."""
        actor, site = _site(request, site_id)
        given = s.ReasonSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        row = look_ups_visible_to(actor).filter(site=site).get(pk=look_up_id)
        withdraw_look_up(actor=actor, look_up=row, reason=given.validated_data["reason"])
        return Response(status=status.HTTP_204_NO_CONTENT)


class SiteAreasView(APIView):
    """The botanical areas of a site: their laws are asked for before work."""

    @extend_schema(operation_id="site_areas_set", request=s.AreasSerializer, responses=s.AreasSetSerializer)
    def put(self, request: Request, site_id: UUID) -> Response:
        """Set, or asked for where jobs are open: a steward and an owner agree on it."""
        actor, site = _site(request, site_id)
        given = s.AreasSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        told = set_areas(actor=actor, site=site, areas=given.validated_data["areas"])
        return Response(s.AreasSetSerializer(told).data)


class ToLookUpView(APIView):
    """What nobody has looked up yet, block by block: one list instead of a question for each tree."""

    @extend_schema(operation_id="to_look_up", parameters=[ON], responses=s.ToLookUpSerializer(many=True))
    def get(self, request: Request, site_id: UUID) -> Response:
        actor, site = _site(request, site_id)
        return Response(s.ToLookUpSerializer(to_look_up(actor, site, _on(request)), many=True).data)


class BeforeWorkView(APIView):
    """What stands round a tree, for a device that judges a step without the network."""

    @extend_schema(
        operation_id="before_work",
        parameters=[ON],
        responses={(200, "application/json"): {"type": "object", "additionalProperties": True}},
    )
    def get(self, request: Request, plant_id: UUID) -> Response:
        """People by their papers, crews, evidence for many trees, targets, holds, as a case has them."""
        actor = actor_of(request)
        plant = plants_visible_to(actor).select_related("block__site").get(pk=plant_id)
        return Response(around_of(actor, plant, _on(request)))


class YearPlanView(APIView):
    """The plan that holds, and where the newest run of the planner stands."""

    @extend_schema(operation_id="year_plan", responses=s.YearPlanSerializer)
    def get(self, request: Request, site_id: UUID) -> Response:
        actor, site = _site(request, site_id)
        plan = plan_of(site)
        run = plan_runs_visible_to(actor).filter(site=site).first()
        return Response(s.YearPlanSerializer({"plan": plan.body if plan else None, "run": run}).data)

    @extend_schema(
        operation_id="year_plan_ask", request=s.PlanAskedSerializer, responses={202: s.PlanRunSerializer}
    )
    def post(self, request: Request, site_id: UUID) -> Response:
        """A steward asks for a new plan; a worker makes it."""
        actor, site = _site(request, site_id)
        given = s.PlanAskedSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        run = ask_for_plan(actor=actor, site=site, starts=require_date("on", given.validated_data["on"]))
        return Response(s.PlanRunSerializer(run).data, status=status.HTTP_202_ACCEPTED)

    @extend_schema(operation_id="year_plan_cancel", request=None, responses={204: None})
    def delete(self, request: Request, site_id: UUID) -> Response:
        """A steward calls off the run that is not over; the plan that holds stays."""
        actor, site = _site(request, site_id)
        cancel_plan(actor=actor, site=site)
        return Response(status=status.HTTP_204_NO_CONTENT)


class MovesView(APIView):
    """Jobs put on a day by hand."""

    @extend_schema(operation_id="job_move", request=s.MoveSerializer, responses={204: None})
    def post(self, request: Request, site_id: UUID) -> Response:
        """A steward keeps a job in the week of a day, or gives it back to the plan."""
        actor, site = _site(request, site_id)
        given = s.MoveSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        read = given.validated_data
        on = require_date("on", read["on"]) if read["on"] else None
        today = require_date("today", read["today"])
        move_job(actor=actor, site=site, job=read["job"], on=on, today=today)
        return Response(status=status.HTTP_204_NO_CONTENT)


class BudgetView(APIView):
    """What to do with so much money."""

    @extend_schema(
        operation_id="work_budget",
        parameters=[ON, OpenApiParameter("money", OpenApiTypes.DOUBLE, required=True)],
        responses=s.SpendingSerializer,
    )
    def get(self, request: Request, site_id: UUID) -> Response:
        actor, site = _site(request, site_id)
        asked = request.query_params.get("money", "")
        try:
            number = float(asked)
        except ValueError:
            raise BadInput("money", asked, "a number from 0 to 100,000,000") from None
        money = require_between("money", number, 0, 100_000_000)
        return Response(s.SpendingSerializer(spending_of(actor, site, _on(request), money)).data)


class PlantingView(APIView):
    """Vacant planting sites, how one-sided the stand is, and what survived."""

    @extend_schema(
        operation_id="site_planting",
        parameters=[ON, OpenApiParameter("taxon", str, description="one more of it: what it would exceed")],
        responses=s.PlantingSerializer,
    )
    def get(self, request: Request, site_id: UUID) -> Response:
        actor, site = _site(request, site_id)
        found = planting_of(actor, site, _on(request), request.query_params.get("taxon", ""))
        return Response(s.PlantingSerializer(found).data)


class CalendarView(APIView):
    """Jobs with a day or a planned week, as iCalendar."""

    @extend_schema(
        operation_id="work_calendar",
        parameters=[ON],
        responses={(200, "text/calendar"): OpenApiTypes.STR},
    )
    def get(self, request: Request, site_id: UUID) -> HttpResponse:
        actor, site = _site(request, site_id)
        rows = sheets_of(actor, site, _on(request), ())
        note(actor, "export_read", thing=site.id, name=f"work of {site.name}", format="iCalendar")
        return _file(icalendar_file(site.name, rows, timezone.now()), "text/calendar", "work.ics")


class WorkSheetsView(APIView):
    """Work sheets to print."""

    @extend_schema(
        operation_id="work_sheets",
        parameters=[ON, JOB],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, site_id: UUID) -> HttpResponse:
        actor, site = _site(request, site_id)
        on = _on(request)
        rows = sheets_of(actor, site, on, _jobs(request))
        note(actor, "export_read", thing=site.id, name=f"work sheets of {site.name}", format="PDF")
        return _file(sheets_pdf(site, rows, on), "application/pdf", "work-sheets.pdf")


class TenderView(APIView):
    """A package for contractors."""

    @extend_schema(
        operation_id="work_tender",
        parameters=[ON, JOB],
        responses={(200, "application/zip"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, site_id: UUID) -> HttpResponse:
        actor, site = _site(request, site_id)
        on = _on(request)
        rows = sheets_of(actor, site, on, _jobs(request))
        note(actor, "export_read", thing=site.id, name=f"tender of {site.name}", format="zip")
        return _file(tender(rows, sheets_pdf(site, rows, on)), "application/zip", "tender.zip")


def _jobs(request: Request) -> list[str]:
    asked = request.query_params.getlist("job")
    return [str(Id().read(f"job[{i}]", job, {})) for i, job in enumerate(asked)]


def _file(data: bytes, kind: str, name: str) -> HttpResponse:
    answer = HttpResponse(data, content_type=kind)
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer
