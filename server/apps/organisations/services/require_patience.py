"""An address that errs across many names waits too: guessing one password for every name is guessing all the
same.
"""

from __future__ import annotations

import datetime

from axes.models import AccessAttempt
from django.conf import settings
from django.db.models import Sum
from django.utils import timezone

from config.error_pages import TOO_MANY_TRIES
from config.errors import DomainError


class TooManyTries(DomainError):
    """The address has erred too often."""

    code = "too_many_tries"
    status = 429


def require_patience(address: str) -> None:
    """Raises TooManyTries while an address has more wrong sign-ins behind it than settings allow. Counted in
    the database, so that all processes count together.

    A name counts for no more tries than lock it: whoever goes on with it is refused anyway, and a device that
    does so by itself shuts no office out.
    """
    since = timezone.now() - datetime.timedelta(hours=settings.AXES_COOLOFF_TIME)
    recent = AccessAttempt.objects.filter(ip_address=address, attempt_time__gte=since)
    tries = (
        recent.values("username").annotate(wrong=Sum("failures_since_start")).values_list("wrong", flat=True)
    )
    if sum(min(n, settings.AXES_FAILURE_LIMIT) for n in tries) >= settings.WRONG_SIGN_INS_AN_ADDRESS:
        raise TooManyTries(TOO_MANY_TRIES)
