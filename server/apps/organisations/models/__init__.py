"""Organisations, the people in them, and what is known of people outside. Every row of the application
belongs to an organisation.
"""

from apps.organisations.models.access import AccessLink, Purpose, SignIn
from apps.organisations.models.audit import AuditEvent
from apps.organisations.models.contact import Contact
from apps.organisations.models.member import REACH, Competence, Member, Organisation, Role

__all__ = [
    "REACH",
    "AccessLink",
    "AuditEvent",
    "Competence",
    "Contact",
    "Member",
    "Organisation",
    "Purpose",
    "Role",
    "SignIn",
]
