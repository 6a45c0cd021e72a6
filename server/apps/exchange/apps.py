"""App registration."""

from django.apps import AppConfig


class ExchangeConfig(AppConfig):
    """Exchange."""

    name = "apps.exchange"
    label = "exchange"
    default_auto_field = "django.db.models.BigAutoField"
