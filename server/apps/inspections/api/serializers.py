"""Targets, coverage, reports and the plan of a day as the front end sees them."""

from __future__ import annotations

import json
from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from apps.inspections.models import Report, Target
from jubark_core.records.typed_schema import REF


@extend_schema_field({"$ref": REF + "LookedAt"})
class LookField(serializers.DictField):
    """An inspection as the core has it."""


@extend_schema_field({"$ref": REF + "RegimeIn"})
class RegimeField(serializers.DictField):
    """The owner's table as the core has it."""


@extend_schema_field({"$ref": REF + "PlanOut"})
class PlanField(serializers.DictField):
    """The plan of a day as the core has it."""


class TargetSerializer(serializers.ModelSerializer[Target]):
    """A target of a site as it stands now."""

    id = serializers.UUIDField(source="thing")
    shape = serializers.SerializerMethodField()

    class Meta:
        model = Target
        fields = ("id", "site_id", "name", "kind", "occupancy", "shape", "note", "set_at")
        read_only_fields = fields

    @extend_schema_field({"type": "object", "additionalProperties": True})
    def get_shape(self, target: Target) -> dict[str, Any]:
        found: dict[str, Any] = json.loads(target.shape.json)
        return found


class CoverageRowSerializer(serializers.Serializer[dict[str, Any]]):
    """How a tree stands against the owner's table."""

    tree = serializers.CharField()
    tag = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    block = serializers.CharField()
    street = serializers.CharField(allow_blank=True)
    rating = serializers.CharField(allow_blank=True)
    zone = serializers.CharField(allow_blank=True)
    level_asked = serializers.CharField(allow_blank=True)
    months = serializers.IntegerField(allow_null=True)
    state = serializers.CharField()
    last = LookField(allow_null=True)
    counted = LookField(allow_null=True)
    shown = LookField(allow_null=True)
    not_seen = serializers.ListField(child=serializers.CharField())
    due_on = serializers.CharField(allow_blank=True)
    overdue = serializers.BooleanField()
    says = serializers.CharField()


class StateCountSerializer(serializers.Serializer[dict[str, Any]]):
    """How many trees stand in one way."""

    state = serializers.CharField()
    says = serializers.CharField()
    trees = serializers.IntegerField()


class BlockCoverageSerializer(serializers.Serializer[dict[str, Any]]):
    """How the trees of a block stand, in short."""

    block = serializers.CharField()
    trees = serializers.IntegerField()
    in_time = serializers.IntegerField()
    not_looked_at = serializers.IntegerField()
    overdue = serializers.IntegerField()


class CoverageReportSerializer(serializers.Serializer[dict[str, Any]]):
    """What was recorded of looking at the trees of some blocks, as of a day."""

    site = serializers.CharField()
    blocks = serializers.ListField(child=serializers.CharField())
    on = serializers.CharField()
    known_at = serializers.CharField()
    regime = RegimeField()
    applies_from = serializers.CharField(allow_blank=True)
    states = StateCountSerializer(many=True)
    by_block = BlockCoverageSerializer(many=True)
    overdue = serializers.IntegerField()
    parts_not_seen = serializers.IntegerField()
    method = serializers.CharField()
    limits = serializers.CharField()
    rows = CoverageRowSerializer(many=True)


class ReportSerializer(serializers.ModelSerializer[Report]):
    """A report that was made."""

    author = serializers.CharField(source="author.shown_name")
    site = serializers.CharField(source="site.name")
    blocks = serializers.SerializerMethodField()

    class Meta:
        model = Report
        fields = ("id", "number", "site", "blocks", "as_of", "author", "made_at", "sha256")
        read_only_fields = fields

    @extend_schema_field(serializers.ListField(child=serializers.CharField()))
    def get_blocks(self, report: Report) -> list[str]:
        return list(report.body["blocks"])


@extend_schema_field({"$ref": REF + "StormBody"})
class StormField(serializers.DictField):
    """A look after a storm as the core has it."""


class StormLookSerializer(serializers.Serializer[dict[str, Any]]):
    """The newest look at a tree since a storm."""

    plant = serializers.UUIDField()
    at = serializers.DateTimeField()
    by = serializers.CharField(allow_blank=True)
    body = StormField()
    wires = serializers.BooleanField(help_text="wires hold it, whatever a later look saw")
    lat = serializers.FloatField(allow_null=True)
    lon = serializers.FloatField(allow_null=True)
    accuracy_m = serializers.FloatField(allow_null=True)


class TreeLabelSerializer(serializers.Serializer[dict[str, str]]):
    """What a tree of the plan is called."""

    tag = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)


class DaySerializer(serializers.Serializer[dict[str, Any]]):
    """The plan of a day, what its trees are called, and how much there is of each task."""

    plan = PlanField()
    trees = serializers.DictField(child=TreeLabelSerializer())
    there_is = serializers.DictField(child=serializers.IntegerField())
