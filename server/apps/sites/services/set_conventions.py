"""The conventions of a site: how its figures are taken from now on. Old figures keep theirs."""

from __future__ import annotations

from typing import Any

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Site
from config.errors import BadInput
from jubark_core.checks import require_between, require_one_of
from jubark_core.condition.scores import SCALES
from jubark_core.size.diameter import BREAST_HEIGHTS_M, COMBINE
from jubark_core.size.protect import STANDARDS

STEPS = ("where", "name", "diameter", "height", "crown", "condition", "signs", "notes")
WORDS = {"several_shoots": tuple(COMBINE), "protection": tuple(STANDARDS), "condition_scale": SCALES}


def set_conventions(*, actor: Member, site: Site, changes: dict[str, Any]) -> Site:
    """Change conventions of a site. No figure is rewritten: each carries the height it was taken at and the
    rule it was made by.

    Raises NotAllowed below steward, InputError naming the field, the value and what is allowed.
    """
    require_role(actor, Role.STEWARD, "Changing the conventions of a site")
    for key, value in changes.items():
        if key == "breast_height_m":
            height = require_between(key, value, 1.0, 2.0, "m")
            if not any(abs(height - h) < 0.002 for h in BREAST_HEIGHTS_M):
                raise BadInput(key, height, "one of " + ", ".join(f"{h:.2f}" for h in BREAST_HEIGHTS_M))
            site.breast_height_m = f"{height:.2f}"  # type: ignore[assignment]  # a decimal as it is written
        elif key == "smallest_cm":
            site.smallest_cm = require_between(key, value, 0, 50, "cm")
        elif key == "walk_steps":
            if sorted(value) != sorted(set(value)) or not set(value) <= set(STEPS):
                raise BadInput(key, ", ".join(value), "each step at most once, out of " + ", ".join(STEPS))
            site.walk_steps = list(value)
        else:
            setattr(site, key, require_one_of(key, value, WORDS[key]))
    site.save(update_fields=list(changes))
    return Site.objects.get(pk=site.pk)
