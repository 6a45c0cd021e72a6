"""Work of a site as the front end sees it."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from jubark_core.records.typed_schema import REF


@extend_schema_field({"$ref": REF + "Proposal"})
class ProposalField(serializers.DictField):
    """A proposal as the core has it."""


@extend_schema_field({"type": "array", "items": {"$ref": REF + "CheckState"}})
class CheckStatesField(serializers.ListField):
    """Checks before the work, as the core has them."""


class OfTreeSerializer(serializers.Serializer[Any]):
    """Which tree it is."""

    plant = serializers.UUIDField()
    tag = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    block = serializers.UUIDField()
    block_name = serializers.CharField()


class ProposedSerializer(OfTreeSerializer):
    """What a tree's file proposes."""

    proposal = ProposalField()
    only = serializers.ListField(child=serializers.CharField())


class JobSerializer(OfTreeSerializer):
    """A job that is not over, and what blocks it."""

    job = serializers.UUIDField()
    rule = serializers.CharField()
    title = serializers.CharField()
    step = serializers.CharField()
    do = serializers.CharField()
    begins = serializers.CharField(allow_blank=True)
    equipment = serializers.CharField(allow_blank=True)
    priority = serializers.IntegerField()
    checks = CheckStatesField()
    unfounded = serializers.BooleanField()


class SiteWorkSerializer(serializers.Serializer[Any]):
    """Proposals nobody has taken up, and jobs that are not over."""

    on = serializers.DateField()
    proposals = ProposedSerializer(many=True)
    more = serializers.IntegerField(help_text="proposals beyond those listed")
    jobs = JobSerializer(many=True)
