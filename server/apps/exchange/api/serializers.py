"""A staged file as the front end sees it."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from apps.exchange.models import ImportBatch


class BadRowSerializer(serializers.Serializer[dict[str, Any]]):
    """A row that cannot be read."""

    row = serializers.IntegerField(allow_null=True)
    field = serializers.CharField()
    value = serializers.CharField()
    allowed = serializers.CharField()


class CountsSerializer(serializers.Serializer[dict[str, Any]]):
    """What the file holds."""

    rows = serializers.IntegerField()
    plants = serializers.IntegerField()
    visits = serializers.IntegerField()
    entries = serializers.IntegerField()
    bad = serializers.IntegerField()


class BatchSerializer(serializers.ModelSerializer[ImportBatch]):
    """Good rows counted, bad rows listed."""

    block = serializers.UUIDField(source="block_id")
    counts = CountsSerializer()
    bad = BadRowSerializer(many=True)

    class Meta:
        model = ImportBatch
        fields = ("id", "block", "file_name", "state", "staged_at", "counts", "bad")
        read_only_fields = fields


class DecisionSerializer(serializers.Serializer[dict[str, Any]]):
    """What to do with a staged file."""

    decision = serializers.ChoiceField(choices=["take", "drop"])
