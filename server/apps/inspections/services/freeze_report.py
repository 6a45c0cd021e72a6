"""A coverage report made once for all: numbered, and the same whenever it is printed again."""

from __future__ import annotations

import datetime
import hashlib
import json
from typing import Any

from django.db import transaction
from django.db.models import Max

from apps.inspections.coverage_report import coverage_report
from apps.inspections.models import Report
from apps.organisations.audit import note
from apps.organisations.models import Competence, Member, Organisation, Role
from apps.organisations.permissions import require_role
from apps.sites.models import Block, Site
from apps.sites.time_zone import today_in
from config.errors import BadInput
from jubark_core.records.fields import read_as
from jubark_core.records.office import ReportIn


@transaction.atomic
def freeze_report(*, actor: Member, site: Site, given: Any) -> Report:
    """Make a report as of a day, of what is known at the end of that day. Raises NotAllowed below surveyor,
    InputError naming the field, BadInput for blocks of another site or a day that has not begun.
    """
    require_role(actor, Role.SURVEYOR, "Making a report")
    read = read_as(ReportIn, "", given, {})
    if read.on > today_in(site.time_zone):
        raise BadInput("on", read.on, "today or an earlier day")
    wanted = set(read.blocks)
    blocks = list(Block.objects.filter(site=site, **({"pk__in": wanted} if wanted else {})))
    if missing := wanted - {block.id for block in blocks}:
        raise BadInput("blocks", min(map(str, missing)), "blocks of this site")
    body = {
        **coverage_report(site, blocks, read.on),
        "note": read.note,
        "author": f"member:{actor.id}",
        "author_competences": valid_papers(actor, today_in(site.time_zone)),
    }
    organisation = Organisation.objects.select_for_update().get(pk=actor.organisation_id)
    before = Report.objects.filter(organisation=organisation).aggregate(n=Max("number"))["n"]
    made = Report.objects.create(
        organisation=organisation,
        number=(before or 0) + 1,
        site=site,
        as_of=read.on,
        author=actor,
        body=body,
        sha256=digest(body),
    )
    note(actor, "report_frozen", thing=made.id, number=made.number)
    return made


def valid_papers(member: Member, today: datetime.date) -> list[str]:
    """The names of what a member is qualified for on a day."""
    held = Competence.objects.filter(member=member, removed_at=None).order_by("name", "id")
    return [paper.name for paper in held if paper.valid_on(today)]


def digest(body: dict[str, Any]) -> str:
    """SHA-256 of the canonical JSON of a report."""
    return hashlib.sha256(json.dumps(body, sort_keys=True, separators=(",", ":")).encode()).hexdigest()
