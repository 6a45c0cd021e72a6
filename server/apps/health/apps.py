"""Plant health: the site at a glance, biosecurity status, movement holds, and the weather station."""

from django.apps import AppConfig


class HealthConfig(AppConfig):
    """The app."""

    name = "apps.health"
    default_auto_field = "django.db.models.BigAutoField"
