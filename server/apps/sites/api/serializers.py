"""Sites and blocks as the front end sees them."""

from __future__ import annotations

import json
from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from apps.sites.models import Block, Plot, Site


class SiteSerializer(serializers.ModelSerializer[Site]):
    """A property and its conventions."""

    areas = serializers.ListField(child=serializers.CharField())
    breast_height_m = serializers.FloatField()
    sections = serializers.ListField(child=serializers.CharField())
    survey_steps = serializers.ListField(child=serializers.CharField())
    hardiness_zone = serializers.CharField(help_text="as 6b; empty: not known")

    class Meta:
        model = Site
        fields = (
            "id",
            "name",
            "areas",
            "lat",
            "lon",
            "elevation_m",
            "time_zone",
            "hardiness_zone",
            "breast_height_m",
            "region",
            "units",
            "several_stems",
            "smallest_cm",
            "fork_by",
            "low_fork",
            "limbs_as",
            "slope_from",
            "swelling",
            "high_days",
            "open_grown",
            "protection",
            "condition_scale",
            "sections",
            "survey_steps",
        )
        read_only_fields = fields


class PlotSerializer(serializers.ModelSerializer[Plot]):
    """A sample plot."""

    centre = serializers.SerializerMethodField()

    class Meta:
        model = Plot
        fields = ("id", "name", "kind", "radius_m", "centre")
        read_only_fields = fields

    @extend_schema_field(serializers.ListField(child=serializers.FloatField()))
    def get_centre(self, plot: Plot) -> list[float]:
        return [plot.centre.x, plot.centre.y]


class BlockSerializer(serializers.ModelSerializer[Block]):
    """A block with its boundary and how many plants it holds."""

    site_id = serializers.UUIDField()
    boundary = serializers.SerializerMethodField()
    plant_count = serializers.IntegerField()

    class Meta:
        model = Block
        fields = (
            "id",
            "site_id",
            "name",
            "setting",
            "biosecurity",
            "note",
            "revision",
            "boundary",
            "plant_count",
        )
        read_only_fields = fields

    @extend_schema_field(serializers.DictField())
    def get_boundary(self, block: Block) -> dict[str, Any]:
        shape: dict[str, Any] = json.loads(block.boundary.json)
        return shape
