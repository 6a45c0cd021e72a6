"""Plants, their visits and entries, the projections made of them, and what syncing needs."""

from apps.plants.models.plant import Current, Merge, Plant, PlantSpan
from apps.plants.models.record import Entry, Visit
from apps.plants.models.sync import Change, PhotoFile, Received

__all__ = ["Change", "Current", "Entry", "Merge", "PhotoFile", "Plant", "PlantSpan", "Received", "Visit"]
