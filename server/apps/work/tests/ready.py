"""What a site has before its work begins: people with papers, a crew, what was looked up; and evidence for a
tree.
"""

from __future__ import annotations

import datetime
import itertools
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from unittest import mock

from rest_framework.test import APIClient

from apps.organisations.models import Competence, Member
from apps.plants.tests.factories import SmallSite, entry, send, signed_in, visit_item
from apps.work.selectors import settings_of
from apps.work.services.set_work_settings import set_work_settings
from jubark_core.records.fields import write
from jubark_core.records.words import EVIDENCE

CREW = "Crew 1"
_SENT = itertools.count()  # so that what was sent later was received later
ALL_SKILLS = (
    *("felling", "climbing", "rescue", "lift_operation", "machine_operation", "pesticide_application"),
    *("line_clearance", "tree_assessment", "wildlife_biology", "emergency_lead"),
)
CHECK_OF = {kind: check for check, kinds in EVIDENCE.items() for kind in kinds}


def papers(member: Member, *skills: str, until: datetime.date | None = None) -> None:
    """What a member shows."""
    for skill in skills:
        Competence.objects.create(
            organisation_id=member.organisation_id, member=member, name=skill, skill=skill, valid_until=until
        )


def ready_site(at: SmallSite) -> None:
    """Steward, owner and surveyor hold every paper; each crew of the site that has nobody is theirs."""
    people = (at.steward, at.surveyor, at.owner)
    for member in people:
        papers(member, *ALL_SKILLS)
    given = write(settings_of(at.site))
    crews = given.get("crews") or [{"name": CREW, "hours": 20}]
    members = [str(member.id) for member in people]
    given["crews"] = [{**crew, "members": crew.get("members") or members} for crew in crews]
    set_work_settings(actor=at.steward, site=at.site, given=given)


def evidence(kind: str, **more: Any) -> dict[str, Any]:
    """An entry of a kind."""
    return entry("clearance", check_closed=CHECK_OF[kind], what=kind, **more)


def looked(**more: Any) -> list[dict[str, Any]]:
    """What the crew looks at on the day."""
    return [
        evidence("nest_look", result="none", **more),
        evidence("hollow_look", result="none", **more),
        evidence("line_look", result="none", **more),
    ]


def assessed(at: SmallSite, until: str = "2029-01-01") -> list[dict[str, Any]]:
    """What is given ahead: consent, owner, roosts, traffic, services, the name by a second person."""
    roosts = {"result": "none", "member": str(at.steward.id), "reference": "R 14", "until": until}
    return [
        evidence("look_up", result="none", by="the authority"),
        evidence("owner_look_up", result="own"),
        evidence("roost_assessment", **roosts),
        evidence("closure_plan", by="the road authority", reference="T 2"),
        evidence("services_located", by="the locating service", reference="S 9", until=until),
        evidence("applicator", answered=["water", "bees", "neighbours"]),
    ]


@contextmanager
def clock_at(moment: datetime.datetime) -> Iterator[None]:
    """The server's clock stands at a moment."""
    with mock.patch("django.utils.timezone.now", return_value=moment):
        yield


def send_then(client: APIClient, *items: dict[str, Any]) -> list[dict[str, Any]]:
    """Items sent as they are made: a minute after the visit. Corrections are sent now."""
    answers = []
    for item in items:
        later = datetime.timedelta(minutes=1, milliseconds=next(_SENT))
        made = item["body"].get("observed_at")
        moment = datetime.datetime.fromisoformat(made) + later if made else None
        with clock_at(moment) if moment else clock_at(datetime.datetime.now(datetime.UTC)):
            answers += send(client, item)
    return answers


def close_for(at: SmallSite, plant: str, on: str, *but: str, hour: int = 12) -> None:
    """Everything that closes a check for work of the day, seen some hours before it by the surveyor, and the
    name by the owner; but for some kinds.
    """
    second = evidence("second_person", reference="tag 7, photograph 3")
    for member, told in ((at.surveyor, [*looked(), *assessed(at)]), (at.owner, [second])):
        rows = [row for row in told if row["body"]["what"] not in but]
        if rows:
            visit = visit_item(plant, *rows, on=on, observed_at=f"{on}T{hour:02d}:00:00+00:00")
            [answer] = send_then(signed_in(member), visit)
            assert answer["answer"] == "accepted", answer


def steps(
    at: SmallSite, plant: str, job: str, rule: str, *names: str, on: str, hour: int = 13, **more: Any
) -> list[dict[str, Any]]:
    """Steps of a job on a day, an hour apart, by the steward; the answers."""
    found = []
    for i, name in enumerate(names):
        row = entry("work", job=job, rule=rule, step=name, crew=CREW, **more)
        visit = visit_item(plant, row, on=on, observed_at=f"{on}T{hour + i:02d}:00:00+00:00", mode="desk")
        found += send_then(signed_in(at.steward), visit)
    return found
