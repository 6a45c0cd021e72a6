"""Record version 6: no table changes; old entries are read by newer rules, so the projections are made anew."""

from __future__ import annotations

from django.db import migrations


class Migration(migrations.Migration):
    """Empty: that it is new is what counts."""

    dependencies = [("plants", "0007_whole_tables")]
    operations = []
