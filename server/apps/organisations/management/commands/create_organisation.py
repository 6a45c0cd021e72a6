"""`manage.py create_organisation`: an organisation with its owner, or a further member of one."""

from __future__ import annotations

import getpass
import os
from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from apps.organisations.models import Role
from apps.organisations.services.create_organisation import create_organisation
from config.errors import BadInput
from jubark_core.errors import InputError


class Command(BaseCommand):
    """Make an organisation and a member in it. The password is asked for, or taken from $JUBARK_PASSWORD;
    never from the command line.
    """

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Organisation, user name, name as shown, role."""
        parser.add_argument("organisation")
        parser.add_argument("username")
        parser.add_argument(
            "--shown-name", default="", help="as others see it; the user name where it is left out"
        )
        parser.add_argument("--role", default=Role.OWNER.value, choices=Role.values)

    def handle(self, *args: Any, **options: Any) -> None:
        """Raises CommandError naming what is wrong."""
        password = os.environ.get("JUBARK_PASSWORD") or getpass.getpass("Password: ")
        try:
            member = create_organisation(
                name=options["organisation"],
                username=options["username"],
                shown_name=options["shown_name"] or options["username"],
                password=password,
                role=options["role"],
            )
        except (BadInput, InputError) as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"{member.shown_name} is {member.role} of {member.organisation.name}.")
