"""`manage.py reset_password NAME`: a new password for a member, from the machine itself."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from apps.installation.passwords import asked_password
from apps.organisations.services.change_password import reset_password
from config.errors import DomainError
from jubark_core.errors import InputError


class Command(BaseCommand):
    """Set a member's password and sign out every device of theirs. The password is asked for, or taken from
    $JUBARK_PASSWORD.
    """

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The name the member signs in with."""
        parser.add_argument("username")

    def handle(self, *args: Any, **options: Any) -> None:
        """Raises CommandError naming what is wrong."""
        try:
            member = reset_password(username=options["username"], password=asked_password())
        except (DomainError, InputError) as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"{member.shown_name} has a new password; every device was signed out.")
