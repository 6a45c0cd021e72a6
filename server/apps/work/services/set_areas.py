"""The botanical areas of a site: with jobs open a steward and an owner, two people, agree on another law."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Block, Site
from apps.sites.time_zone import today_in
from apps.work.jobs import checks_before, files_of_site
from apps.work.models import AreaAsked
from config.errors import BadInput
from jubark_core.flora.load import shipped_flora
from jubark_core.season.place import Place
from jubark_core.work.before.area import holds_place

Change = dict[str, Any]


@transaction.atomic
def set_areas(*, actor: Member, site: Site, areas: list[str]) -> Change:
    """Set them, or ask for them where jobs are open and the other of steward and owner has not asked for the
    same. Says of which open jobs other checks stand open. Raises NotAllowed below steward, BadInput naming
    the field.
    """
    require_role(actor, Role.STEWARD, "Setting the areas of a site")
    locked = Site.objects.select_for_update().get(pk=site.pk)
    place = Place(locked.lat, locked.lon, locked.elevation_m)
    for i, area in enumerate(areas):
        if area not in shipped_flora().areas:
            raise BadInput(f"areas[{i}]", area, "a TDWG level 3 code, e.g. PEN")
        if not holds_place(area, place):
            raise BadInput(
                f"areas[{i}]", area, f"an area that holds the place of the site, {place.lat}, {place.lon}"
            )
    if not areas:
        raise BadInput("areas", "nothing", "at least one area")
    before = _asked(actor, locked)
    if before and not _second(actor, locked, areas):
        AreaAsked.objects.create(
            organisation_id=actor.organisation_id, site=locked, areas=areas, asked_by=actor
        )
        note(actor, "area_asked", thing=site.id, areas=areas)
        standing = list(locked.areas)
        changed = _changed(before, _asked(actor, _with(locked, areas)))
        return {"set": False, "areas": standing, "jobs": len(before), "changed": changed}
    locked = _with(locked, areas)
    locked.save(update_fields=["areas"])
    note(actor, "area_set", thing=site.id, areas=areas)
    return {
        "set": True,
        "areas": areas,
        "jobs": len(before),
        "changed": _changed(before, _asked(actor, locked)),
    }


def _second(actor: Member, site: Site, areas: list[str]) -> bool:
    """Whether the newest that was asked is this, by another member: an owner and a steward."""
    newest = AreaAsked.objects.filter(site=site).select_related("asked_by").order_by("-id").first()
    if newest is None or newest.areas != areas or newest.asked_by_id == actor.id:
        return False
    return {newest.asked_by.role, actor.role} == {Role.STEWARD, Role.OWNER}


def _with(site: Site, areas: list[str]) -> Site:
    site.areas = areas
    return site


def _asked(actor: Member, site: Site) -> dict[str, tuple[str, str, list[str]]]:
    """Open job -> tree, title, and its open checks."""
    today = today_in(site.time_zone)
    blocks = list(Block.objects.filter(site=site))
    return {
        str(job.job): (
            file.tree["tag"],
            job.last.rule,
            [check["check"] for check in checks_before(job, file) if check["open"]],
        )
        for file in files_of_site(actor, site, blocks, today, with_jobs=True)
        for job in file.jobs
        if not job.is_over
    }


def _changed(before: dict[str, Any], after: dict[str, Any]) -> list[Change]:
    return [
        {"job": job, "tag": tag, "rule": rule, "open_before": checks, "open_after": after[job][2]}
        for job, (tag, rule, checks) in before.items()
        if job in after and after[job][2] != checks
    ]
