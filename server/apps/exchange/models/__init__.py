"""Files read in: staged first, judged row by row, taken over in one transaction when a steward says so."""

from __future__ import annotations

import uuid

from django.db import models

from apps.organisations.models import Member, Organisation
from apps.organisations.triggers import same_organisation, settled
from apps.sites.models import Block


class ImportBatch(models.Model):
    """A file that was read: its good rows staged as outbox items, its bad rows with field, value and what is
    allowed.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    block = models.ForeignKey(Block, on_delete=models.PROTECT)
    author = models.ForeignKey(Member, on_delete=models.PROTECT)
    file_name = models.CharField(max_length=200)
    items = models.JSONField()
    bad = models.JSONField()
    counts = models.JSONField()
    state = models.CharField(
        max_length=8,
        default="staged",
        choices=[("staged", "staged"), ("taken", "taken"), ("dropped", "dropped")],
    )
    staged_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        triggers = [
            same_organisation("block_id", "sites_block", "import_same_organisation"),
            *settled("import_settled", "state", "items", until="OLD.state = 'staged'"),
        ]

    def __str__(self) -> str:
        return f"{self.file_name} {self.state}"
