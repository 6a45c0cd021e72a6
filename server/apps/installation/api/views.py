"""Health, readiness and the first run: doors without a session."""

from django.utils.decorators import method_decorator
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import csrf_protect
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from apps.installation.readiness import what_is_missing
from apps.installation.services.first_run import is_first_run, take_first_run
from apps.organisations.api.link_views import OpenDoor
from apps.organisations.api.serializers import JoinSerializer, MemberSerializer
from apps.organisations.api.views import shown_member
from apps.organisations.services.open_session import open_session


class ReadySerializer(serializers.Serializer[dict[str, object]]):
    """Whether this process can do its work, and what is missing."""

    ready = serializers.BooleanField()
    missing = serializers.ListField(child=serializers.CharField())


@method_decorator(never_cache, name="dispatch")
class ReadyView(APIView):
    """Readiness: a proxy sends requests to processes that are ready."""

    permission_classes = (AllowAny,)
    authentication_classes = ()

    @extend_schema(operation_id="ready", responses={200: ReadySerializer, 503: ReadySerializer})
    def get(self, request: Request) -> Response:
        """200 when the database answers with the tables of this version and photographs can be stored; else
        503 with what is missing.
        """
        missing = what_is_missing()
        return Response({"ready": not missing, "missing": missing}, status=503 if missing else 200)


class FirstRunStateSerializer(serializers.Serializer[dict[str, bool]]):
    """Whether the installation waits for its first organisation."""

    needed = serializers.BooleanField()


class FirstRunSerializer(JoinSerializer):
    """What the first run takes."""

    name = serializers.CharField(max_length=120, help_text="of the organisation")


@method_decorator(csrf_protect, name="dispatch")
class FirstRunView(OpenDoor):
    """The first run."""

    @extend_schema(operation_id="first_run_read", responses=FirstRunStateSerializer)
    def get(self, request: Request) -> Response:
        """Whether there is no organisation yet."""
        return Response({"needed": is_first_run()})

    @extend_schema(operation_id="first_run_take", request=FirstRunSerializer, responses=MemberSerializer)
    def post(self, request: Request) -> Response:
        """Makes the organisation and its owner, and signs the owner in. Only while there is none, and only
        with the token that is printed at start.
        """
        given = FirstRunSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        member = take_first_run(**given.validated_data)
        open_session(request._request, member)
        return shown_member(member)
