"""Inspections: targets and their zones, the owner's table, coverage, reports, and the plan of a day."""

from django.apps import AppConfig


class InspectionsConfig(AppConfig):
    """The app."""

    name = "apps.inspections"
    default_auto_field = "django.db.models.BigAutoField"
