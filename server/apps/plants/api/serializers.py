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
    lon = serializers.SerializerMethodField()
    lat = serializers.SerializerMethodField()
    outline = serializers.SerializerMethodField()
    signs = serializers.ListField(child=serializers.CharField())
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
            "life",
            "signs",
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


class VisitSerializer(serializers.ModelSerializer[Visit]):
    """A visit with its entries."""

    entries = EntriesShownField()
    entered_by = serializers.CharField(
        allow_blank=True, help_text="the author, where another observer is named"
    )
    mine = serializers.BooleanField()

    class Meta:
        model = Visit
        fields = (
            "id",
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
    current = CurrentSerializer()
    visits = VisitSerializer(many=True)


class AnswerSerializer(serializers.Serializer[dict[str, Any]]):
    """What became of one item."""

    id = serializers.UUIDField(allow_null=True)
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
    sha256 = serializers.CharField()
    bytes = serializers.IntegerField()


class ComputeRequestSerializer(serializers.Serializer[dict[str, Any]]):
    """Raw readings of one measurement."""

    quantity = serializers.CharField()
    raw = serializers.DictField()
    combine = serializers.CharField(default="squares")
    least_cm = serializers.FloatField(default=0)


class ComputedSerializer(serializers.Serializer[dict[str, Any]]):
    """The figure that follows from the readings."""

    value = serializers.FloatField()
    unit = serializers.CharField()
    stems = serializers.IntegerField()
    thinner = serializers.IntegerField(
        required=False, help_text="stems thinner than the least that is measured"
    )
    error_m = serializers.FloatField(required=False)
    warning = serializers.CharField(required=False)


class PlausibilityRequestSerializer(serializers.Serializer[dict[str, Any]]):
    """A new figure and what is known beside it."""

    plant = serializers.UUIDField(required=False, allow_null=True)
    quantity = serializers.CharField()
    value = serializers.FloatField()
    on = serializers.DateField()
    at_height_m = serializers.FloatField(required=False, allow_null=True)
    dbh_cm = serializers.FloatField(required=False, allow_null=True)
    height_m = serializers.FloatField(required=False, allow_null=True)
    taxon = serializers.CharField(required=False, allow_blank=True)


class MeantSerializer(serializers.Serializer[dict[str, Any]]):
    """The figure that was perhaps meant, and by which slip."""

    value = serializers.FloatField()
    why = serializers.CharField()


class BeforeSerializer(serializers.Serializer[dict[str, Any]]):
    """The last visit's figure."""

    value = serializers.FloatField()
    on = serializers.DateField()
    at_height_m = serializers.FloatField(allow_null=True)
    method = serializers.CharField()
    stem_form = serializers.CharField(allow_blank=True)


class PlausibilitySerializer(serializers.Serializer[dict[str, Any]]):
    """What speaks against a figure; empty lists where nothing does."""

    warnings = serializers.ListField(child=serializers.CharField())
    meant = MeantSerializer(many=True)
    before = BeforeSerializer(allow_null=True)


class ZoneSerializer(serializers.Serializer[dict[str, Any]]):
    """A circle round the tree."""

    radius_m = serializers.FloatField()
    area_m2 = serializers.FloatField()
    rule = serializers.CharField()


class CarbonSerializer(serializers.Serializer[dict[str, Any]]):
    """Dry mass, carbon and CO2 equivalent; or why there is no figure."""

    refused = serializers.CharField(allow_blank=True)
    group = serializers.CharField(required=False)
    biomass_kg = serializers.FloatField(required=False)
    carbon_kg = serializers.FloatField(required=False)
    co2e_kg = serializers.FloatField(required=False)
    outside = serializers.CharField(required=False, allow_blank=True)
    source = serializers.CharField(required=False)  # type: ignore[assignment]


class GrowthSerializer(serializers.Serializer[dict[str, Any]]):
    """Diameter growth between the last two visits that measured."""

    cm_a_year = serializers.FloatField()
    years = serializers.FloatField()
    doubt = serializers.CharField(allow_blank=True)
    against_its_kind = serializers.CharField(allow_blank=True)
    to = serializers.DateField()

    def get_fields(self) -> dict[str, Any]:
        return {**super().get_fields(), "from": serializers.DateField()}


class RiskInShortSerializer(serializers.Serializer[dict[str, Any]]):
    """The newest worksheet."""

    rating = serializers.CharField(allow_blank=True)
    residual = serializers.CharField(allow_blank=True)
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
    protection = ZoneSerializer(allow_null=True)
    structural_root = ZoneSerializer(allow_null=True)
    carbon = CarbonSerializer(allow_null=True)
    growth = GrowthSerializer(allow_null=True)
    rings = RingsSerializer(allow_null=True)
    crown_area_m2 = serializers.FloatField(allow_null=True)
    crown_overlaps = OverlapSerializer(many=True)
    live_crown_ratio = serializers.FloatField(allow_null=True)
    changes = serializers.ListField(child=serializers.CharField())
    risk = RiskInShortSerializer(allow_null=True)


class ScoreRequestSerializer(serializers.Serializer[dict[str, Any]]):
    """Grades of the parts."""

    parts = serializers.DictField()
    leafless = serializers.BooleanField(default=False)


class ScoreSerializer(serializers.Serializer[dict[str, Any]]):
    """Health, structure and the whole."""

    health = serializers.FloatField(allow_null=True)
    structure = serializers.FloatField(allow_null=True)
    whole = serializers.CharField()
    held_by = serializers.CharField(allow_null=True)
    not_seen = serializers.ListField(child=serializers.CharField())


class RiskRowSerializer(serializers.Serializer[dict[str, Any]]):
    """A part that may fail and what it may hit."""

    part = serializers.CharField()
    target = serializers.CharField()
    failure = serializers.CharField()
    impact = serializers.CharField()
    consequence = serializers.CharField()
    work = serializers.CharField(required=False, allow_blank=True)
    failure_after = serializers.CharField(required=False, allow_blank=True)
    rating = serializers.CharField(read_only=True)
    residual = serializers.CharField(read_only=True)


class RiskRequestSerializer(serializers.Serializer[dict[str, Any]]):
    """A worksheet before it is rated."""

    rows = RiskRowSerializer(many=True)
    years = serializers.FloatField(allow_null=True)
    level = serializers.CharField()
    base_seen = serializers.BooleanField()
    crown_seen = serializers.BooleanField()
    on = serializers.DateField()
    next_inspection_months = serializers.IntegerField(required=False, allow_null=True)


class RiskSerializer(serializers.Serializer[dict[str, Any]]):
    """A rated worksheet; `rating` is null where base or crown was not seen."""

    rows = RiskRowSerializer(many=True)
    rating = serializers.CharField(allow_null=True)
    residual = serializers.CharField(allow_null=True)
    why = serializers.CharField(allow_blank=True)
    years = serializers.FloatField()
    level = serializers.CharField()
    next_inspection = serializers.DateField(allow_null=True)
    says = serializers.CharField()


class SpaceRequestSerializer(serializers.Serializer[dict[str, Any]]):
    """A taxon and the things round its place."""

    taxon = serializers.CharField()
    things = serializers.ListField(child=serializers.DictField(), max_length=20)


class SpaceRowSerializer(serializers.Serializer[dict[str, Any]]):
    """Whether the grown plant keeps clear of one thing."""

    kind = serializers.CharField()
    distance_m = serializers.FloatField()
    fits = serializers.CharField()
    says = serializers.CharField()
