"""A block in four figures: how many trees, on how much ground, with how much wood."""

from __future__ import annotations

import math
from typing import TypedDict

from django.contrib.gis.db.models.functions import Area
from django.db.models import Count, F, FloatField, Sum, Value
from django.db.models.functions import Coalesce

from apps.organisations.models import Member
from apps.plants.selectors import trees_visible_to
from apps.sites.models import Block
from jubark_core.tree_file.life import IN_STAND

M2_PER_HA = 10_000


class BlockSummary(TypedDict):
    """Trees that stand, those with a diameter, area of the block, and basal area on it."""

    standing: int
    measured: int
    area_ha: float
    basal_area_m2_per_ha: float


def block_summary(actor: Member, block: Block) -> BlockSummary:
    """Figures of a block; basal area is that of the trees whose diameter is known, over the whole block."""
    standing = trees_visible_to(actor).filter(block=block, life__in=IN_STAND)
    squares = Coalesce(Sum(F("dbh_cm") * F("dbh_cm")), Value(0.0), output_field=FloatField())
    found = standing.aggregate(standing=Count("pk"), measured=Count("dbh_cm"), squares=squares)
    area = Block.objects.filter(pk=block.pk).values_list(Area("boundary"), flat=True).get().sq_m
    return {
        "standing": found["standing"],
        "measured": found["measured"],
        "area_ha": area / M2_PER_HA,
        # pi/4 d squared, d in m: pi/40000 with d in cm
        "basal_area_m2_per_ha": math.pi / 40_000 * found["squares"] / (area / M2_PER_HA),
    }
