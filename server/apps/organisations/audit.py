"""Writing down who did what: called by the service that does it, in its transaction."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from apps.organisations.models import AuditEvent, Member
from config.request_id import request_id

# What is written down, in the words of the audit page.
ACTS = {
    "organisation_made": "made the organisation",
    "signed_in": "signed in",
    "signed_out": "signed out",
    "sign_in_refused": "a wrong password was given for",
    "sign_ins_ended": "ended sign-ins of",
    "member_invited": "made an invitation",
    "invitation_accepted": "joined by an invitation of",
    "account_made": "made the account of",
    "link_revoked": "withdrew a link",
    "password_link_made": "made a link for a new password of",
    "password_changed": "changed the password of",
    "name_changed": "changed the name of",
    "member_changed": "changed the access of",
    "membership_ended": "ended the membership of",
    "competence_added": "added a competence of",
    "competence_removed": "removed a competence of",
    "contact_made": "made a contact",
    "contact_changed": "changed a contact",
    "contact_erased": "erased a contact",
    "look_up_made": "told evidence for many trees",
    "look_up_withdrawn": "withdrew evidence for many trees",
    "area_asked": "asked for another area of a site",
    "area_set": "set another area of a site",
    "site_made": "made a site",
    "site_changed": "changed a site",
    "conventions_changed": "changed conventions",
    "block_made": "made a block",
    "block_changed": "changed a block",
    "target_set": "set a target",
    "targets_read_in": "read in a file of targets of",
    "target_ended": "took a target off",
    "regime_set": "set the table of inspections",
    "biosecurity_set": "set the biosecurity status of",
    "hold_lifted": "ended the movement hold of",
    "station_read": "read in the weather station of",
    "plants_merged": "merged two records of one tree",
    "merge_undone": "took a merge back",
    "work_settings_set": "set crews and rates of",
    "plan_asked": "asked for a year plan of",
    "plan_cancelled": "called off a year plan of",
    "job_moved": "moved a job by hand on",
    "report_frozen": "made a report",
    "records_sent": "sent records",
    "file_read_in": "read a file in",
    "file_taken": "took a file over",
    "file_dropped": "dropped a file",
    "export_read": "took an export",
}


def note(
    actor: Member | None,
    act: str,
    *,
    organisation: UUID | None = None,
    subject: Member | None = None,
    thing: UUID | None = None,
    **detail: Any,
) -> None:
    """Write one act down. Names of people do not belong into `detail`; `subject` says whom it is about.

    organisation: where there is no actor: the machine, or somebody who is not signed in.
    """
    if act not in ACTS:
        raise ValueError(f"{act} is no act of the audit")
    owner = actor.organisation_id if actor else organisation
    if owner is None:
        raise ValueError("an act needs an actor, or the organisation it happened in")
    AuditEvent.objects.create(
        organisation_id=owner,
        actor=actor,
        act=act,
        subject=subject,
        thing=thing,
        detail=detail,
        request_id=request_id(),
    )
