"""Work: proposals from the file of each tree, jobs step by step, and the checks before them."""

from django.apps import AppConfig


class WorkConfig(AppConfig):
    """The app."""

    name = "apps.work"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        """No step of a job is stored past an open check, whichever door it comes through."""
        from apps.plants.services.store_records import BEFORE_STORING
        from apps.work.pre_work_checks import require_steps_allowed

        if require_steps_allowed not in BEFORE_STORING:
            BEFORE_STORING.append(require_steps_allowed)
