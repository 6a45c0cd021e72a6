"""App registration."""

from django.apps import AppConfig


class DemoConfig(AppConfig):
    """The demonstration sites: invented, made by a seeded generator."""

    name = "apps.demo"
    label = "demo"
