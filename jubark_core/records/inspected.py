"""What was looked at: an inspection with its level and what was seen, and a look after a storm."""

from __future__ import annotations

import datetime
from dataclasses import dataclass

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.fields import described
from jubark_core.records.shapes import Flag, Moment, Several, Text, Word

NOTHING_SEEN = "not_visible"


@dataclass(frozen=True, kw_only=True)
class Inspection:
    """That the tree was inspected: at which level, what of it was seen, and whether no defect was found."""

    level: str = described(
        "Level of inspection",
        "Limited visual from one side, basic from all round, or advanced with instruments.",
        Word(w.INSPECTION_LEVELS),
        since=4,
    )
    base_visible: str = described("Base seen", "How much of it.", Word(w.BASE_VISIBLE), "", since=4)
    crown_visible: str = described("Crown seen", "How much of it.", Word(w.CROWN_VISIBLE), "", since=4)
    no_defect: bool = described(
        "No defect found", "A finding of this day, of what was seen.", Flag(), False, since=4
    )
    walked: bool = described(
        "Walked, exceptions only",
        "Passed on a walk along the street that stops only where something stands out.",
        Flag(),
        False,
        since=4,
    )
    walk: str = described("Street or row", "Which was walked.", Text(120), "", since=4)
    began_at: datetime.datetime | None = described("Walk began", "When.", Moment(), None, since=4)
    ended_at: datetime.datetime | None = described("Walk ended", "When.", Moment(), None, since=4)
    daylight: str = described("Daylight", "In which it was looked at.", Word(w.DAYLIGHT), "", since=4)
    leaf: str = described("Leaf state", "Of most trees of the walk.", Word(w.LEAF_STATES), "", since=4)
    no_access: str = described(
        "No access",
        "Why nobody got to the tree, as a locked yard: it was tried, and is no inspection.",
        Text(200),
        "",
        since=6,
    )

    def check(self, before: str) -> None:
        """What a level needs is said, and nothing is found on what was not seen."""
        if self.walked and self.level != "limited_visual":
            raise InputError(
                f"{before}level", self.level, "limited_visual: who walks past sees one side from a distance"
            )
        seen = {"base_visible": self.base_visible, "crown_visible": self.crown_visible}
        if self.no_access.strip():
            said = next((name for name, how_much in seen.items() if how_much not in ("", NOTHING_SEEN)), "")
            if said or self.no_defect:
                allowed = "nothing, where nobody got to the tree"
                raise InputError(before + (said or "no_defect"), seen.get(said, True), allowed)
            return
        for name, how_much in seen.items():
            if self.level != "limited_visual" and not how_much:
                raise InputError(before + name, "nothing", f"how much was seen, at the level {self.level}")
        if self.no_defect and not any(how_much not in ("", NOTHING_SEEN) for how_much in seen.values()):
            raise InputError(
                f"{before}no_defect",
                True,
                "false, where neither base nor crown was seen; or say what was seen",
            )
        if self.began_at and self.ended_at and self.ended_at < self.began_at:
            raise InputError(f"{before}ended_at", self.ended_at.isoformat(), f"{self.began_at} or later")


@dataclass(frozen=True, kw_only=True)
class StormLook:
    """The first look at a tree after a storm. With wires, or somebody under it, nothing else is asked."""

    under_it: tuple[str, ...] = described(
        "Wires or a person",
        "Wires that touch it, are down or pulled tight; a line near it; somebody under it; or neither.",
        Several(Word(w.UNDER_IT), len(w.UNDER_IT), 1),
        since=4,
    )
    lies: str = described("Stands or lies", "Standing, hung up, or fallen.", Word(w.LIES), "", since=4)
    blocks: str = described("Blocks", "What it lies on or across.", Word(w.BLOCKS), "", since=4)
    next_step: str = described("To do", "What has to be done.", Word(w.STORM_NEXT), "", since=4)

    def check(self, before: str) -> None:
        """All three are answered, unless wires or a person come first; neither of them stands alone."""
        if len(set(self.under_it)) < len(self.under_it):
            raise InputError(before + "under_it", list(self.under_it), "each answer once")
        if "neither" in self.under_it and len(self.under_it) > 1:
            raise InputError(before + "under_it", list(self.under_it), "neither alone, or what there is")
        for name in ("lies", "blocks", "next_step"):
            given = getattr(self, name)
            if not given and not {"wires", "person"} & {*self.under_it}:
                raise InputError(before + name, "nothing", "an answer, where no wire and nobody is under it")


INSPECTED = {
    "inspection": ("Inspection", Inspection, "level"),
    "storm": ("After a storm", StormLook, "under_it"),
}
