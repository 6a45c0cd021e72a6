"""The app of plants, visits and entries."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig
from django.db import connections
from django.db.migrations.executor import MigrationExecutor
from django.db.models.signals import post_migrate


class PlantsConfig(AppConfig):
    """Plants, visits, entries, photographs."""

    name = "apps.plants"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        """After a migration of these tables what follows from the entries is made anew: the rules of a new
        version read old entries anew, and the inventory must not show what the old ones made of them.
        """
        post_migrate.connect(_made_anew, sender=self)


def _made_anew(*, using: str, plan: Any = (), **_: Any) -> None:
    if not any(migration.app_label == "plants" and not backwards for migration, backwards in plan):
        return
    executor = MigrationExecutor(connections[using])
    if executor.migration_plan(executor.loader.graph.leaf_nodes()):
        return  # halfway: the tables are not yet those this version reads
    from apps.plants.services.rebuild_current import rebuild_current

    rebuild_current()
