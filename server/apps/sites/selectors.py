"""What a member may read of sites and blocks."""

from __future__ import annotations

from django.db.models import Count, Q, QuerySet

from apps.organisations.models import Member
from apps.organisations.permissions import visible_to
from apps.sites.models import Block, Plot, Site


def sites_visible_to(actor: Member) -> QuerySet[Site]:
    """Sites of the actor's organisation."""
    return visible_to(actor, Site.objects.all()).order_by("name")


def blocks_visible_to(actor: Member) -> QuerySet[Block]:
    """Blocks of the actor's organisation, with the number of plants in each."""
    return (
        visible_to(actor, Block.objects.select_related("site"))
        .annotate(plant_count=Count("plants", filter=Q(plants__merged_into=None) & ~Q(plants__form="vacant")))
        .order_by("site__name", "name")
    )


def plots_visible_to(actor: Member) -> QuerySet[Plot]:
    """Sample plots of the actor's organisation."""
    return visible_to(actor, Plot.objects.all()).order_by("name")
