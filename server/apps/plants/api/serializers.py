"""Plants with their visits, and the answers of the outbox."""

from __future__ import annotations

import json
from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from apps.plants.models import Current, Visit
from jubark_core.records.typed_schema import REF


class FigureField(serializers.FloatField):
    """A figure as people read it, to two decimals; files carry all of them."""

    def to_representation(self, value: Any) -> float:  # type: ignore[override]  # the stubs say str
        return round(float(value), 2)


class CurrentSerializer(serializers.ModelSerializer[Current]):
    """A row of the inventory."""

    id = serializers.UUIDField(source="plant_id")
    block_id = serializers.UUIDField()
    form = serializers.CharField(source="plant.form")
    row_name = serializers.CharField(source="plant.row_name")
    lon = serializers.SerializerMethodField()
    lat = serializers.SerializerMethodField()
    outline = serializers.SerializerMethodField()
    signs = serializers.ListField(child=serializers.CharField())
    cause_standing = serializers.CharField(allow_blank=True)
    dbh_cm = FigureField(allow_null=True)
    dbh_height_m = FigureField(allow_null=True)
    height_m = FigureField(allow_null=True)
    crown_spread_m = FigureField(allow_null=True)

    class Meta:
        model = Current
        fields = (
            "id",
            "block_id",
            "form",
            "row_name",
            "lon",
            "lat",
            "outline",
            "tag",
            "tag_clash",
            "taxon",
            "name",
            "name_rank",
            "name_probability",
            "dbh_cm",
            "dbh_height_m",
            "height_m",
            "crown_spread_m",
            "condition",
            "condition_at_most",
            "condition_in_winter",
            "risk_reads",
            "next_inspection",
            "life",
            "signs",
            "verdict",
            "cause",
            "cause_standing",
            "diagnosed_on",
            "visits",
            "last_seen",
            "contested",
        )
        read_only_fields = fields

    @extend_schema_field(serializers.FloatField(allow_null=True))
    def get_lon(self, row: Current) -> float | None:
        return row.plant.place.x if row.plant.place else None

    @extend_schema_field(serializers.DictField(allow_null=True))
    def get_outline(self, row: Current) -> dict[str, Any] | None:
        shape: dict[str, Any] | None = json.loads(row.plant.outline.json) if row.plant.outline else None
        return shape

    @extend_schema_field(serializers.FloatField(allow_null=True))
    def get_lat(self, row: Current) -> float | None:
        return row.plant.place.y if row.plant.place else None


class InventorySerializer(serializers.Serializer[dict[str, Any]]):
    """A page of the inventory."""

    rows = CurrentSerializer(many=True)
    next = serializers.CharField(allow_null=True)
    count = serializers.IntegerField()
    count_exact = serializers.BooleanField()


@extend_schema_field({"type": "array", "items": {"$ref": REF + "EntryShown"}})
class EntriesShownField(serializers.ListField):
    """The entries of a visit, each with its body and what became of it."""


class BlockSummarySerializer(serializers.Serializer[dict[str, Any]]):
    """A block in a few figures."""

    standing = serializers.IntegerField()
    measured = serializers.IntegerField(help_text="trees whose diameter is known")
    area_ha = serializers.FloatField()
    basal_area_m2_per_ha = serializers.FloatField(help_text="of the trees measured, over the whole block")


class VisitSerializer(serializers.ModelSerializer[Visit]):
    """A visit with its entries."""

    entries = EntriesShownField()
    record = serializers.UUIDField(help_text="the plant it was recorded under: a duplicate's, where merged")
    entered_by = serializers.CharField(
        allow_blank=True, help_text="the author, where another observer is named"
    )
    mine = serializers.BooleanField()

    class Meta:
        model = Visit
        fields = (
            "id",
            "record",
            "observer",
            "entered_by",
            "mine",
            "mode",
            "local_date",
            "observed_at",
            "stage",
            "setting",
            "origin",
            "light",
            "sex",
            "clock_doubtful",
            "entries",
        )
        read_only_fields = fields


class PlantSerializer(serializers.Serializer[dict[str, Any]]):
    """A plant: where it is, what is known of it now, and every visit, newest first."""

    id = serializers.UUIDField()
    block_id = serializers.UUIDField()
    form = serializers.CharField()
    lon = serializers.FloatField(allow_null=True)
    lat = serializers.FloatField(allow_null=True)
    accuracy_m = serializers.FloatField(allow_null=True)
    how_taken = serializers.CharField()
    origin = serializers.CharField()
    row_name = serializers.CharField()
    row_position = serializers.IntegerField(allow_null=True)
    merged_into = serializers.UUIDField(allow_null=True)
    duplicates = serializers.ListField(child=serializers.UUIDField())
    merged_on = serializers.DateField(
        allow_null=True, help_text="when the last duplicate was found to be one, at the site"
    )
    current = CurrentSerializer()
    visits = VisitSerializer(many=True)


class AnswerSerializer(serializers.Serializer[dict[str, Any]]):
    """What became of one item."""

    id = serializers.CharField(allow_null=True, help_text="as it was sent, also where it is no id")
    answer = serializers.ChoiceField(choices=["accepted", "already", "refused", "waiting"])
    on = serializers.UUIDField(required=False)
    code = serializers.CharField(required=False)
    message = serializers.CharField(required=False)
    field = serializers.CharField(required=False)
    value = serializers.CharField(required=False, allow_blank=True)
    allowed = serializers.CharField(required=False)
    role = serializers.CharField(required=False)
    needs = serializers.CharField(required=False)


class AnswersSerializer(serializers.Serializer[dict[str, Any]]):
    """One answer per item, in their order."""

    answers = AnswerSerializer(many=True)


class ChangeSerializer(serializers.Serializer[dict[str, Any]]):
    """A plant that changed."""

    number = serializers.IntegerField()
    kind = serializers.CharField()
    what = serializers.UUIDField()


class ChangesSerializer(serializers.Serializer[dict[str, Any]]):
    """Changes after a number; ask again with `last` until `more` is false."""

    changes = ChangeSerializer(many=True)
    last = serializers.IntegerField()
    more = serializers.BooleanField()


class PhotoStoredSerializer(serializers.Serializer[dict[str, Any]]):
    """The hash the server computed: only then may the device drop its copy."""

    id = serializers.UUIDField()
    sha256 = serializers.CharField(help_text="as it was announced and sent")
    stored_sha256 = serializers.CharField(
        help_text="of the bare picture that is stored: nearly always the same"
    )
    bytes = serializers.IntegerField()


class ZoneSerializer(serializers.Serializer[dict[str, Any]]):
    """A circle round the tree."""

    radius_m = serializers.FloatField()
    area_m2 = serializers.FloatField()
    rule = serializers.CharField()


@extend_schema_field({"$ref": REF + "TreeCarbon"})
class CarbonField(serializers.DictField):
    """Dry mass, carbon and CO2 equivalent; or why there is no figure."""


@extend_schema_field({"$ref": REF + "Protection"})
class ProtectionField(serializers.DictField):
    """The ground to keep clear, by the standard of the site."""


class GrowthSerializer(serializers.Serializer[dict[str, Any]]):
    """Diameter growth between the last two visits that measured."""

    cm_a_year = serializers.FloatField()
    band_cm = serializers.FloatField(help_text="± of it, from the error of both readings")
    years = serializers.FloatField()
    none = serializers.BooleanField(help_text="the change lies within the error of measuring")
    doubt = serializers.CharField(allow_blank=True)
    against_its_kind = serializers.CharField(allow_blank=True)
    to = serializers.DateField()

    def get_fields(self) -> dict[str, Any]:
        return {**super().get_fields(), "from": serializers.DateField()}


@extend_schema_field({"$ref": REF + "Act"})
class ActField(serializers.DictField):
    """What has to be done, and how soon, as the core says it."""


class RiskInShortSerializer(serializers.Serializer[dict[str, Any]]):
    """The newest worksheet."""

    reads = serializers.CharField()
    residual_reads = serializers.CharField()
    act = ActField()
    proposed = serializers.ListField(child=serializers.CharField())
    on = serializers.DateField()
    next_inspection = serializers.DateField(allow_null=True)
    years = serializers.FloatField()


class OverlapSerializer(serializers.Serializer[dict[str, Any]]):
    """A neighbour whose crown reaches into this one."""

    tag = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    share = serializers.FloatField(help_text="of the smaller of the two crowns")


class RingsSerializer(serializers.Serializer[dict[str, Any]]):
    """Rings of a core: how many to the centimetre of radius, and the diameter growth that means."""

    per_cm = serializers.FloatField()
    cm_a_year = serializers.FloatField()


class FromSizeSerializer(serializers.Serializer[dict[str, Any]]):
    """What follows from a plant's figures."""

    basal_area_m2 = serializers.FloatField(allow_null=True)
    protection = ProtectionField(allow_null=True)
    structural_root = ZoneSerializer(allow_null=True)
    carbon = CarbonField(allow_null=True)
    growth = GrowthSerializer(allow_null=True)
    rings = RingsSerializer(allow_null=True)
    crown_area_m2 = serializers.FloatField(allow_null=True)
    crown_overlaps = OverlapSerializer(many=True)
    live_crown_ratio = serializers.FloatField(allow_null=True)
    changes = serializers.ListField(child=serializers.CharField())
    risk = RiskInShortSerializer(allow_null=True)
