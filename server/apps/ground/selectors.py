"""What a member may read of grounds and blocks."""

from __future__ import annotations

from django.db.models import Count, QuerySet

from apps.crews.models import Member
from apps.crews.permissions import visible_to
from apps.ground.models import Block, Ground, Plot


def grounds_visible_to(actor: Member) -> QuerySet[Ground]:
    """Grounds of the actor's crew."""
    return visible_to(actor, Ground.objects.all()).order_by("name")


def blocks_visible_to(actor: Member) -> QuerySet[Block]:
    """Blocks of the actor's crew, with the number of plants in each."""
    return (
        visible_to(actor, Block.objects.select_related("ground"))
        .annotate(plant_count=Count("plants"))
        .order_by("ground__name", "name")
    )


def plots_visible_to(actor: Member) -> QuerySet[Plot]:
    """Sample plots of the actor's crew."""
    return visible_to(actor, Plot.objects.all()).order_by("name")
