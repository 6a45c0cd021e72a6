"""Work of a site."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.organisations.permissions import actor_of
from apps.sites.selectors import blocks_visible_to, sites_visible_to
from apps.work.api import serializers as s
from apps.work.jobs import work_of_site
from config.errors import BadInput
from jubark_core.checks import require_date

ON = OpenApiParameter("on", OpenApiTypes.DATE, required=True)
BLOCK = OpenApiParameter("block", OpenApiTypes.UUID, description="of the site; none: every block of it")


class SiteWorkView(APIView):
    """What the files of the trees propose, and where each job stands."""

    @extend_schema(operation_id="site_work", parameters=[ON, BLOCK], responses=s.SiteWorkSerializer)
    def get(self, request: Request, site_id: UUID) -> Response:
        actor = actor_of(request)
        site = sites_visible_to(actor).get(pk=site_id)
        on = require_date("on", request.query_params.get("on"))
        blocks = list(blocks_visible_to(actor).filter(site=site))
        if wanted := request.query_params.get("block"):
            blocks = [b for b in blocks if str(b.id) == wanted]
            if not blocks:
                raise BadInput("block", wanted, "a block of this site")
        return Response(s.SiteWorkSerializer(work_of_site(actor, site, blocks, on)).data)
