"""The door to the core over HTTP: one view for each operation, made from the core's own table."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponseBase
from django.utils.decorators import method_decorator
from django.views.decorators.gzip import gzip_page
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.throttling import UserRateThrottle
from rest_framework.views import APIView

from config.error_pages import app_outdated
from jubark_core import door
from jubark_core.flora.load import shipped_flora
from jubark_core.records.typed_schema import hint_schema


class DoorThrottle(UserRateThrottle):
    """How often one member may ask the core: far more than hands can, far less than a loop would."""

    scope = "core"


@method_decorator(gzip_page, name="dispatch")
class OperationView(APIView):
    """One operation of the door: what is posted goes to the core, what it answers comes back."""

    throttle_classes = (DoorThrottle,)

    def dispatch(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponseBase:
        if request.method == "GET":  # an app of an earlier version asked so
            return app_outdated(request)
        return super().dispatch(request, *args, **kwargs)


def operation_view(name: str) -> type[OperationView]:
    """The view of an operation, described as the core describes it."""
    what = door.OPERATIONS[name]

    def post(self: OperationView, request: Request) -> Response:
        return Response(door.run(name, request.data, shipped_flora()))

    post.__doc__ = what.summary
    described = extend_schema(
        operation_id="core_" + name.replace("-", "_"),
        request={"application/json": hint_schema(what.takes)},
        responses={(200, "application/json"): hint_schema(what.gives)},
    )
    view = type("OperationView", (OperationView,), {"post": described(post)})
    view.__doc__ = what.summary
    return view
