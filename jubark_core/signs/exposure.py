"""How much of what stands here a cause could take: by stems, basal area and crown area."""

from __future__ import annotations

import math
from typing import Annotated, Any, NotRequired, TypedDict

from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.records.typed_schema import Between
from jubark_core.signs.hosts import susceptibility
from jubark_core.signs.load import health

LEAST = 0.05  # hosts that are only seldom hit and worse are counted; resistant ones are not
GRAVE = ("serious", "kills")


class StandingHost(TypedDict):
    """Plants of a taxon: how many, their basal area in m², the area of their crowns in m²."""

    taxon: str
    stems: Annotated[int, Between(0, 10**9)]
    basal_area_m2: NotRequired[Annotated[float, Between(0, 1e9)]]
    crown_area_m2: NotRequired[Annotated[float, Between(0, 1e9)]]


class ExposureIn(TypedDict):
    """What stands here."""

    plants: list[StandingHost]


class Exposure(TypedDict):
    """What share a cause could take; badly: of hosts that are hit worst. None where there is no figure."""

    agent: str
    name: str
    harm: str
    stems: int
    stems_share: float
    basal_area_share: float | None
    crown_area_share: float | None
    badly_share: float
    taxa: list[str]


def exposure(given: Any, flora: Flora) -> list[Exposure]:
    """The graver causes with hosts here: killers first, then by how many stems are hit badly.

    Raises InputError for an unknown taxon.
    """
    plants = []
    for i, row in enumerate(given["plants"]):
        taxon = flora.resolve.get(row["taxon"])
        if taxon is None:
            raise InputError(f"plants[{i}].taxon", row["taxon"], "the id of a taxon of the flora")
        plants.append((taxon, row))
    total = sum(row["stems"] for _, row in plants)
    found: list[Exposure] = []
    for _, cause in sorted(health().causes.items()):
        if cause.harm not in GRAVE or total == 0 or "any" in cause.hosts or "broadleaves" in cause.hosts:
            continue
        taken = {t: s for t, _ in plants if (s := susceptibility(cause, t, flora)) > LEAST}
        stems = sum(row["stems"] for t, row in plants if t in taken)
        if not stems:
            continue
        badly = sum(row["stems"] for t, row in plants if taken.get(t, 0) >= 1)
        found.append(
            {
                "agent": cause.id,
                "name": cause.name,
                "harm": cause.harm,
                "stems": stems,
                "stems_share": stems / total,
                "basal_area_share": _share(plants, taken, "basal_area_m2"),
                "crown_area_share": _share(plants, taken, "crown_area_m2"),
                "badly_share": badly / total,
                "taxa": sorted(taken),
            }
        )
    return sorted(found, key=lambda e: (-GRAVE.index(e["harm"]), -e["badly_share"], -e["stems"], e["agent"]))


def _share(plants: list[tuple[str, Any]], taken: dict[str, float], key: str) -> float | None:
    whole = math.fsum(row.get(key, 0.0) for _, row in plants)
    return math.fsum(row.get(key, 0.0) for t, row in plants if t in taken) / whole if whole > 0 else None
