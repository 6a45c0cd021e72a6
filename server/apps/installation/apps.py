"""App registration."""

from django.apps import AppConfig


class InstallationConfig(AppConfig):
    """The installation."""

    name = "apps.installation"
    label = "installation"
    default_auto_field = "django.db.models.BigAutoField"
