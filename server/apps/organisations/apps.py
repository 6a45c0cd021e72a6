"""App registration."""

from django.apps import AppConfig


class OrganisationsConfig(AppConfig):
    """Organisations."""

    name = "apps.organisations"
    label = "organisations"
    default_auto_field = "django.db.models.BigAutoField"
