"""The first run: while nobody is here, whoever holds the token printed at start makes the organisation and
becomes its owner.
"""

from __future__ import annotations

import hmac
from typing import Any

from django.db import transaction
from django.utils.crypto import salted_hmac

from apps.installation.models import Installation
from apps.organisations.models import Member, Organisation
from apps.organisations.services.create_organisation import create_organisation
from config.errors import DomainError


class NotTheFirst(DomainError):
    """There is an organisation already."""

    code = "not_the_first"
    status = 409

    def __init__(self) -> None:
        super().__init__("This installation has an organisation already. An owner of it invites you.")


class WrongToken(DomainError):
    """Not the token of this installation's first run."""

    code = "wrong_token"
    status = 403

    def __init__(self) -> None:
        super().__init__(
            "This is not the token of the first run. It stands in the address that is printed when Jubark "
            "starts; `./jubark token` prints it again."
        )


def is_first_run() -> bool:
    """Whether there is no organisation yet."""
    return not Organisation.objects.exists()


def first_run_token() -> str:
    """The token of the first run: every process of an installation knows the same one, nobody else any. It is
    good once, for afterwards there is an organisation.
    """
    row, _ = Installation.objects.get_or_create(pk=1)
    return salted_hmac("jubark first run", row.nonce, algorithm="sha256").hexdigest()[:32]


@transaction.atomic
def take_first_run(*, token: Any, name: Any, username: Any, shown_name: Any, password: Any) -> Member:
    """Make the organisation and its owner. Raises NotTheFirst, WrongToken, BadInput naming the field."""
    known = first_run_token()
    Installation.objects.select_for_update().get(pk=1)  # of two at once the second finds the first's
    if not is_first_run():
        raise NotTheFirst
    if not isinstance(token, str) or not hmac.compare_digest(token.encode(), known.encode()):
        raise WrongToken
    return create_organisation(name=name, username=username, shown_name=shown_name, password=password)
