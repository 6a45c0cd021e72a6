"""`manage.py create_organisation`: an organisation with its owner and, when asked, its first site; or a
further member of one.
"""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand, CommandError
from django.db import transaction

from apps.installation.passwords import asked_password
from apps.organisations.models import Role
from apps.organisations.services.create_organisation import create_organisation
from apps.sites.services.make_site import make_site
from config.errors import DomainError
from jubark_core.errors import InputError
from jubark_core.records.words import HARDINESS_ZONES, REGIONS, UNITS


class Command(BaseCommand):
    """Make an organisation and a member in it. The password is asked for, or taken from $JUBARK_PASSWORD;
    never from the command line.
    """

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Organisation, user name, name as shown, role; the first site."""
        parser.add_argument("organisation")
        parser.add_argument("username")
        parser.add_argument(
            "--shown-name", default="", help="as others see it; the user name where it is left out"
        )
        parser.add_argument("--role", default=Role.OWNER.value, choices=Role.values)
        site = parser.add_argument_group("the first site")
        site.add_argument("--site", default="", help="its name; without it no site is made")
        site.add_argument("--at", nargs=2, type=float, metavar=("LAT", "LON"), help="its middle, WGS 84")
        site.add_argument("--areas", nargs="+", default=[], help="TDWG level 3 codes, as PEN")
        site.add_argument("--elevation", type=float, default=0.0, help="metres above the sea")
        site.add_argument("--zone", default="", choices=["", *HARDINESS_ZONES], metavar="ZONE", help="as 6b")
        site.add_argument("--units", default="metric", choices=UNITS)
        site.add_argument("--region", default="us", choices=REGIONS)

    def handle(self, *args: Any, **options: Any) -> None:
        """Raises CommandError naming what is wrong; then nothing is made."""
        try:
            with transaction.atomic():
                member = create_organisation(
                    name=options["organisation"],
                    username=options["username"],
                    shown_name=options["shown_name"] or options["username"],
                    password=asked_password(),
                    role=options["role"],
                )
                site = make_site(actor=member, given=_site(options)) if options["site"] else None
        except (DomainError, InputError) as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"{member.shown_name} is {member.role} of {member.organisation.name}.")
        if site:
            self.stdout.write(f"Its first site is {site.name}.")


def _site(options: dict[str, Any]) -> dict[str, Any]:
    lat, lon = options["at"] or (None, None)
    return {
        "name": options["site"],
        **({"lat": lat, "lon": lon} if options["at"] else {}),
        "areas": options["areas"],
        "elevation_m": options["elevation"],
        "hardiness_zone": options["zone"],
        "conventions": {"units": options["units"], "region": options["region"]},
    }
