"""What there is one of in a database."""

from __future__ import annotations

import secrets

from django.db import models


def _nonce() -> str:
    return secrets.token_hex(16)


class Installation(models.Model):
    """The one row that stands for this installation. Its nonce goes into the token of the first run, so that
    a new database has a new one.
    """

    id = models.PositiveSmallIntegerField(primary_key=True, default=1)
    nonce = models.CharField(max_length=32, default=_nonce)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(id=1), name="one_installation")]

    def __str__(self) -> str:
        return f"installation of {self.made_at:%Y-%m-%d}"
