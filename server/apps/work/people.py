"""Who is qualified for what: members and contacts by their papers, and the crews of a site."""

from __future__ import annotations

from typing import Any

from apps.organisations.models import Competence, Contact, Member
from apps.organisations.permissions import visible_to
from jubark_core.records.fields import load
from jubark_core.records.office import Competence as Paper
from jubark_core.records.office import WorkSettings

Papers = dict[str, list[dict[str, Any]]]


def people_of(actor: Member, settings: WorkSettings) -> Papers:
    """Member or contact -> what each paper shows, by the paper itself or by the name the site asks for. Who
    has left shows nothing.
    """
    by_name: dict[str, list[str]] = {}
    for row in settings.skills:
        by_name.setdefault(row.qualification.casefold(), []).append(row.skill)
    found: Papers = {}

    def add(person: Any, paper: Any) -> None:
        for skill in dict.fromkeys(
            [*([paper.skill] if paper.skill else []), *by_name.get(paper.name.casefold(), [])]
        ):
            begins, until = paper.valid_from, paper.valid_until
            found.setdefault(str(person), []).append(
                {
                    "skill": skill,
                    "begins": begins.isoformat() if begins else None,
                    "until": until.isoformat() if until else None,
                }
            )

    held = Competence.objects.filter(removed_at=None, member__left_at=None)
    for competence in visible_to(actor, held):
        add(competence.member_id, competence)
    for contact in visible_to(actor, Contact.objects.filter(erased_at=None).exclude(papers=[])):
        for raw in contact.papers:
            add(contact.pk, load(Paper, raw))
    return found


def crews_of(settings: WorkSettings) -> dict[str, list[str]]:
    """Crew -> its members."""
    return {crew.name: [str(member) for member in crew.members] for crew in settings.crews}
