"""What a member may read of people."""

from __future__ import annotations

from django.contrib.sessions.models import Session
from django.db.models import Count, F, Prefetch, Q, QuerySet
from django.utils import timezone

from apps.organisations.models import AccessLink, AuditEvent, Competence, Contact, Member, Role, SignIn
from apps.organisations.permissions import require_role, visible_to


def _open_sessions() -> QuerySet[Session, str]:
    """Keys of the sessions that have not expired."""
    return Session.objects.filter(expire_date__gt=timezone.now()).values_list("session_key", flat=True)


def members_visible_to(actor: Member) -> QuerySet[Member]:
    """Everybody of the organisation, former members last. For stewards and owners."""
    require_role(actor, Role.STEWARD, "Reading the list of people")
    return (
        visible_to(actor, Member.objects.select_related("user"))
        .prefetch_related(Prefetch("competences", Competence.objects.filter(removed_at=None)))
        .annotate(devices=Count("sign_ins", filter=Q(sign_ins__session_key__in=_open_sessions())))
        .order_by(F("former_number").asc(nulls_first=True), "shown_name", "id")
    )


def links_visible_to(actor: Member) -> QuerySet[AccessLink]:
    """Links that can still be used, newest first. For owners."""
    require_role(actor, Role.OWNER, "Reading the open links")
    usable = {"used_at": None, "revoked_at": None, "expires_at__gt": timezone.now()}
    return visible_to(
        actor, AccessLink.objects.filter(**usable).select_related("member", "issued_by")
    ).order_by("-issued_at")


def sign_ins_of(actor: Member) -> QuerySet[SignIn]:
    """Where the member is signed in, latest first."""
    return actor.sign_ins.filter(session_key__in=_open_sessions()).order_by("-last_seen_at")


def competences_visible_to(actor: Member) -> QuerySet[Competence]:
    """Licences and qualifications of the organisation's members. For stewards and owners."""
    require_role(actor, Role.STEWARD, "Reading competences")
    return visible_to(actor, Competence.objects.filter(removed_at=None).select_related("member"))


def contacts_visible_to(actor: Member) -> QuerySet[Contact]:
    """People outside, by name, erased ones last. For stewards and owners."""
    require_role(actor, Role.STEWARD, "Reading contacts")
    return visible_to(actor, Contact.objects.all()).order_by(
        F("erased_at").asc(nulls_first=True), "name", "id"
    )


def audit_visible_to(actor: Member) -> QuerySet[AuditEvent]:
    """Who did what, newest first. For owners."""
    require_role(actor, Role.OWNER, "Reading the audit")
    return visible_to(actor, AuditEvent.objects.select_related("actor", "subject")).order_by("-id")
