"""Record version 7: no table changes; old entries are read by newer rules, so the projections are made anew."""

from __future__ import annotations

from django.db import migrations


class Migration(migrations.Migration):
    """Empty: that it is new is what counts."""

    dependencies = [("plants", "0008_record_version_6")]
    operations = []
