"""App registration."""

from django.apps import AppConfig


class SitesConfig(AppConfig):
    """Site."""

    name = "apps.sites"
    label = "sites"
    default_auto_field = "django.db.models.BigAutoField"
