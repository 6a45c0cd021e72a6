"""Plants, their visits and entries, the projections made of them, and what syncing needs."""

from apps.stems.models.plant import Current, Plant, StemSpan
from apps.stems.models.record import (
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
from apps.stems.models.sync import Change, PhotoFile, Received

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
    "Received",
    "RiskSheet",
    "Sign",
    "StemSpan",
    "Tag",
    "Visit",
    "Voucher",
]
