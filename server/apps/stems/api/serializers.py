"""Plants, their strip of visits, and the outbox as the front end sees them."""

from __future__ import annotations

import json
from typing import Any
from uuid import UUID

from django.db.models import Model
from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from apps.stems.models import Current, Entry, Visit
from apps.stems.models.record import Body


class CurrentSerializer(serializers.ModelSerializer[Current]):
    """A row of the ledger."""

    id = serializers.UUIDField(source="plant_id")
    block_id = serializers.UUIDField()
    form = serializers.CharField(source="plant.form")
    lon = serializers.SerializerMethodField()
    lat = serializers.SerializerMethodField()
    outline = serializers.SerializerMethodField()
    signs = serializers.ListField(child=serializers.CharField())
    dbh_height_m = serializers.FloatField(allow_null=True)

    class Meta:
        model = Current
        fields = (
            "id", "block_id", "form", "lon", "lat", "outline", "tag", "tag_clash", "taxon", "name", "name_rank", "name_probability", "dbh_cm", "dbh_height_m",
            "height_m", "crown_spread_m", "condition", "life", "signs", "visits", "last_seen", "contested",
        )  # fmt: skip
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


class LedgerSerializer(serializers.Serializer[dict[str, Any]]):
    """A page of the ledger."""

    rows = CurrentSerializer(many=True)
    next = serializers.CharField(allow_null=True)
    count = serializers.IntegerField()
    count_exact = serializers.BooleanField()


class EntrySerializer(serializers.ModelSerializer[Entry]):
    """An entry with its body and what became of it."""

    body = serializers.DictField()
    replaces = serializers.UUIDField(source="replaces_id", allow_null=True)
    retracts = serializers.UUIDField(source="retracts_id", allow_null=True)
    stands = serializers.BooleanField(help_text="false when it was replaced, retracted, or is itself a retraction")
    contested = serializers.BooleanField()
    mine = serializers.BooleanField()

    class Meta:
        model = Entry
        fields = (
            "id",
            "kind",
            "body",
            "observer",
            "recorded_at",
            "received_at",
            "replaces",
            "retracts",
            "reason",
            "stands",
            "contested",
            "mine",
        )
        read_only_fields = fields


class VisitSerializer(serializers.ModelSerializer[Visit]):
    """A visit with its entries."""

    entries = EntrySerializer(many=True)

    class Meta:
        model = Visit
        fields = (
            "id",
            "observer",
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
    """A plant whole: where it stands, what it is now, and every visit, newest first."""

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


class OutboxItemSerializer(serializers.Serializer[dict[str, Any]]):
    """One thing a device kept: a plant, a visit with its entries, or a correction."""

    id = serializers.UUIDField()
    kind = serializers.ChoiceField(choices=["plant", "visit", "correction"])
    author = serializers.UUIDField(required=False)
    recorded_at = serializers.DateTimeField(required=False)
    schema = serializers.IntegerField(default=1)
    body = serializers.DictField()


class OutboxSerializer(serializers.Serializer[dict[str, Any]]):
    """At most 200 items and 1 MiB."""

    sent_at = serializers.DateTimeField(required=False)
    items = OutboxItemSerializer(many=True)


class AnswerSerializer(serializers.Serializer[dict[str, Any]]):
    """What became of one item."""

    id = serializers.UUIDField(allow_null=True)
    answer = serializers.ChoiceField(choices=["accepted", "already", "refused", "waiting"])
    on = serializers.UUIDField(required=False)
    code = serializers.CharField(required=False)
    message = serializers.CharField(required=False)
    field = serializers.CharField(required=False)
    allowed = serializers.CharField(required=False)


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


class ReckonRequestSerializer(serializers.Serializer[dict[str, Any]]):
    """Raw readings of one measurement."""

    quantity = serializers.CharField()
    raw = serializers.DictField()
    combine = serializers.CharField(default="squares")


class ReckonedSerializer(serializers.Serializer[dict[str, Any]]):
    """The figure that follows from the readings."""

    value = serializers.FloatField()
    unit = serializers.CharField()
    shoots = serializers.IntegerField()
    error_m = serializers.FloatField(required=False)
    warning = serializers.CharField(required=False)


SKIPPED_DEFAULTS: tuple[Any, ...] = (None, [], "", False)


def shown_body(body: Body | None) -> dict[str, Any]:
    """A body's fields as plain JSON, without empty ones."""
    if body is None:
        return {}
    fields = {f.name: getattr(body, f.attname) for f in body._meta.concrete_fields if f.name != "entry"}
    return {k: _plain(v) for k, v in fields.items() if v not in SKIPPED_DEFAULTS or k in ("present",)}


def _plain(value: Any) -> Any:
    if isinstance(value, list):
        return [_plain(v) for v in value]
    if isinstance(value, UUID | Model):
        return str(value)
    return float(value) if value.__class__.__name__ == "Decimal" else value
