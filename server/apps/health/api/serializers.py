"""Plant health of a site as the front end sees it."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from apps.health.models import BiosecurityStatus, HoldLifted
from jubark_core.records.typed_schema import REF


@extend_schema_field({"type": "array", "items": {"$ref": REF + "LookFor"}})
class LookForField(serializers.ListField):
    """Stages to look for, as the core has them."""


@extend_schema_field({"$ref": REF + "DegreeDays"})
class DegreeDaysField(serializers.DictField):
    """A sum of warmth as the core has it."""


@extend_schema_field({"type": "array", "items": {"$ref": REF + "Exposure"}})
class ExposureField(serializers.ListField):
    """What share of the plants each cause could take, as the core has it."""


class NamedCountSerializer(serializers.Serializer[dict[str, Any]]):
    """How many plants of a block or a name."""

    name = serializers.CharField(allow_blank=True)
    plants = serializers.IntegerField()


class CauseAtSiteSerializer(serializers.Serializer[dict[str, Any]]):
    """A cause and the plants that have it or are suspected."""

    cause = serializers.CharField()
    name = serializers.CharField()
    latin = serializers.CharField(allow_blank=True)
    harm = serializers.CharField(allow_blank=True)
    plants = serializers.IntegerField()
    confirmed = serializers.IntegerField()
    probable = serializers.IntegerField()
    suspected = serializers.IntegerField()
    by_block = NamedCountSerializer(many=True)
    by_host = NamedCountSerializer(many=True)
    newest = serializers.DateField(allow_null=True)


class UnexplainedSerializer(serializers.Serializer[dict[str, Any]]):
    """A plant with signs that nobody has judged."""

    plant = serializers.UUIDField()
    tag = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    block = serializers.UUIDField()
    signs = serializers.ListField(child=serializers.CharField())


class HoldSerializer(serializers.Serializer[dict[str, Any]]):
    """A movement hold that stands."""

    block = serializers.UUIDField()
    block_name = serializers.CharField()
    cause = serializers.CharField()
    name = serializers.CharField()
    since = serializers.DateField()
    plants = serializers.ListField(child=serializers.UUIDField())
    tell = serializers.CharField()
    says = serializers.CharField()


class BlockHealthSerializer(serializers.Serializer[dict[str, Any]]):
    """The biosecurity status of a block."""

    block = serializers.UUIDField()
    name = serializers.CharField()
    status = serializers.CharField()
    cause = serializers.CharField(allow_blank=True)
    since = serializers.CharField(allow_blank=True)
    lifted_by = serializers.CharField(allow_blank=True)
    set_by = serializers.CharField(allow_blank=True)


class WatchedSerializer(serializers.Serializer[dict[str, Any]]):
    """A cause that is not here yet and has hosts here."""

    cause = serializers.CharField()
    name = serializers.CharField()
    plants = serializers.IntegerField()
    must_report = serializers.CharField()
    tell = serializers.CharField()
    look = serializers.CharField()


class OpenSampleSerializer(serializers.Serializer[dict[str, Any]]):
    """A sample without a result."""

    plant = serializers.UUIDField()
    number = serializers.CharField()
    sent_to = serializers.CharField(allow_blank=True)
    sent_on = serializers.CharField(allow_blank=True)


class StationSerializer(serializers.Serializer[dict[str, Any]]):
    """The station's record in short."""

    name = serializers.CharField()
    simulated = serializers.BooleanField()
    first_day = serializers.DateField()
    last_day = serializers.DateField()
    missing = serializers.IntegerField()


class BothClocksSerializer(serializers.Serializer[dict[str, Any]]):
    """Warmth gathered since the start of the year, by either base."""

    phenology = DegreeDaysField(allow_null=True)
    pests = DegreeDaysField(allow_null=True)


class SiteHealthSerializer(serializers.Serializer[dict[str, Any]]):
    """A site's plant health at a glance."""

    on = serializers.DateField()
    plants = serializers.IntegerField()
    causes = CauseAtSiteSerializer(many=True)
    unexplained = UnexplainedSerializer(many=True)
    look_for = LookForField()
    later = LookForField()
    clock = BothClocksSerializer()
    station = StationSerializer(allow_null=True)
    holds = HoldSerializer(many=True)
    blocks = BlockHealthSerializer(many=True)
    exposure = ExposureField()
    watch = WatchedSerializer(many=True)
    samples = OpenSampleSerializer(many=True)


class SpreadSerializer(serializers.Serializer[Any]):
    """A plant that has or had the cause."""

    plant = serializers.UUIDField()
    tag = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    block = serializers.UUIDField()
    lon = serializers.FloatField(allow_null=True)
    lat = serializers.FloatField(allow_null=True)
    first = serializers.DateField()
    standing = serializers.CharField(allow_blank=True)
    ended = serializers.CharField(allow_blank=True)


class BiosecuritySerializer(serializers.ModelSerializer[BiosecurityStatus]):
    """A status as it was set."""

    status = serializers.CharField()

    class Meta:
        model = BiosecurityStatus
        fields = ("block_id", "status", "cause", "since", "lifted_by", "remark", "set_at")
        read_only_fields = fields


class HoldLiftedSerializer(serializers.ModelSerializer[HoldLifted]):
    """The end of a hold."""

    class Meta:
        model = HoldLifted
        fields = ("block_id", "cause", "on", "reference", "remark", "set_at")
        read_only_fields = fields
