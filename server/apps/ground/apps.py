"""App registration."""

from django.apps import AppConfig


class GroundConfig(AppConfig):
    """Ground."""

    name = "apps.ground"
    label = "ground"
    default_auto_field = "django.db.models.BigAutoField"
