"""Plants, their visits and entries, the projections made of them, and what syncing needs."""

from apps.plants.models.plant import Current, Plant, PlantSpan
from apps.plants.models.record import (
    BODIES,
    ConditionScore,
    Defect,
    Determination,
    Entry,
    LifeState,
    Look,
    Measurement,
    Note,
    Photo,
    RiskSheet,
    Sign,
    Tag,
    Visit,
    Voucher,
)
from apps.plants.models.sync import Change, PhotoFile, Received

__all__ = [
    "BODIES",
    "Change",
    "ConditionScore",
    "Current",
    "Defect",
    "Determination",
    "Entry",
    "LifeState",
    "Look",
    "Measurement",
    "Note",
    "Photo",
    "PhotoFile",
    "Plant",
    "PlantSpan",
    "Received",
    "RiskSheet",
    "Sign",
    "Tag",
    "Visit",
    "Voucher",
]
