"""App registration."""

from django.apps import AppConfig


class DemoConfig(AppConfig):
    """The demonstration grounds: invented, made by a seeded generator."""

    name = "apps.demo"
    label = "demo"
