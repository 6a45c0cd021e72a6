"""App registration."""

from django.apps import AppConfig


class CoreApiConfig(AppConfig):
    """Naming."""

    name = "apps.core_api"
    label = "core_api"
    default_auto_field = "django.db.models.BigAutoField"
