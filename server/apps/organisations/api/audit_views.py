"""Who did what."""

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.api.serializers import AuditPageSerializer
from apps.organisations.audit import ACTS
from apps.organisations.permissions import actor_of
from apps.organisations.selectors import audit_visible_to
from config.errors import BadInput
from config.replica import reads_from_replica
from jubark_core.checks import require_date

PAGE = 100


class AuditView(APIView):
    """The audit, newest first."""

    @extend_schema(
        operation_id="audit_list",
        parameters=[
            OpenApiParameter("before", int, description="`before` of the page read last"),
            OpenApiParameter("act", str, description="only this act"),
            OpenApiParameter("on", str, description="only this day (UTC), YYYY-MM-DD"),
        ],
        responses=AuditPageSerializer,
    )
    @reads_from_replica
    def get(self, request: Request) -> Response:
        rows = audit_visible_to(actor_of(request))
        asked = request.query_params
        if raw := asked.get("before", ""):
            if not (raw.isascii() and raw.isdigit()) or len(raw) > 18:
                raise BadInput("before", raw, "a whole number, the `before` of the page read last")
            rows = rows.filter(pk__lt=int(raw))
        if act := asked.get("act", ""):
            if act not in ACTS:
                raise BadInput("act", act, "one of " + ", ".join(ACTS))
            rows = rows.filter(act=act)
        if day := asked.get("on", ""):
            rows = rows.filter(at__date=require_date("on", day))
        found = list(rows[: PAGE + 1])
        page = found[:PAGE]
        before = page[-1].pk if len(found) > PAGE else None
        return Response(AuditPageSerializer({"rows": page, "before": before}).data)
