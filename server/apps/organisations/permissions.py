"""Who may do what: the object check and the role check, side by side with the organisation filter."""

from __future__ import annotations

from typing import TYPE_CHECKING, TypeVar

from django.db.models import Model, QuerySet
from rest_framework.exceptions import NotAuthenticated
from rest_framework.permissions import BasePermission
from rest_framework.request import Request

from apps.organisations.models import Member, Role
from config.errors import NotAllowed

if TYPE_CHECKING:
    from rest_framework.views import APIView

M = TypeVar("M", bound=Model)


def visible_to(actor: Member, rows: QuerySet[M]) -> QuerySet[M]:
    """The rows of the actor's organisation: the one place where organisations are kept apart."""
    return rows.filter(organisation_id=actor.organisation_id)


def may_see(actor: Member, row: Model) -> bool:
    """The same rule for one object; a test holds both together."""
    return getattr(row, "organisation_id", None) == actor.organisation_id


def require_role(actor: Member, role: Role, what: str) -> None:
    """Raises NotAllowed unless the actor's role reaches."""
    if not actor.reaches(role):
        raise NotAllowed(
            f"{what} needs the role {role.value} or further; yours is {actor.role}.",
            role=actor.role,
            needs=role.value,
        )


class IsMember(BasePermission):
    """Signed in, in an organisation, and with access today. Whose access has ended meets 401, as without a
    session: the device asks to sign in, and keeps what was written.
    """

    message = "Sign in first."

    def has_permission(self, request: Request, view: APIView) -> bool:
        member = getattr(request.user, "member", None) if request.user.is_authenticated else None
        if member is not None and not member.has_access:
            raise NotAuthenticated("Your access to this organisation has ended; ask an owner of it.")
        if member is not None:
            request._request.member_id = str(member.pk)  # type: ignore[attr-defined]  # for the log
        return member is not None


def actor_of(request: Request) -> Member:
    """The member behind a request that passed IsMember."""
    member: Member = request.user.member  # type: ignore[union-attr]
    return member
