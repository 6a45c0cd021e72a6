"""App registration."""

from django.apps import AppConfig


class NamingConfig(AppConfig):
    """Naming."""

    name = "apps.naming"
    label = "naming"
    default_auto_field = "django.db.models.BigAutoField"
