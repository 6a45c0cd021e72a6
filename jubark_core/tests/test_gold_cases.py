"""The gold cases: what a practitioner would say, frozen before any weight was tuned."""

from __future__ import annotations

import tomllib
import unittest
from pathlib import Path
from typing import Any

from jubark_core.flora.load import shipped_flora
from jubark_core.naming.engine import name_plant
from jubark_core.records.words import ORIGINS, SETTINGS, STAGES

FILE = Path(__file__).parent / "vectors" / "gold_cases.toml"
CERTAINTY = {"!": "sure", "?": "unsure"}


def look(line: str) -> dict[str, Any]:
    """`leaf.side_veins = 9 10 !` as the observation it stands for."""
    character, words = (part.strip() for part in line.split("=", 1))
    said: dict[str, Any] = {"character": character}
    told = words.split()
    if told[-1] in CERTAINTY:
        said["certainty"] = CERTAINTY[told.pop()]
    if told[-1] == "~told":
        said["seen"] = told.pop().removeprefix("~")
    kind = shipped_flora().characters[character]["kind"]
    if told == ["-"]:
        return {**said, "none": True}
    if kind in ("count", "measure"):
        return {**said, "values": [float(w) for w in told]}
    return {**said, "states": told} if kind == "many" else {**said, "state": " ".join(told)}


def case_of(gold: dict[str, Any]) -> dict[str, Any]:
    words = gold["at"].split()
    known = {"setting": SETTINGS, "origin": ORIGINS, "stage": STAGES}
    where = {key: word for key, allowed in known.items() for word in words if word in allowed}
    return {
        "on": gold["on"],
        "lat": 40.5,
        "lon": -79.3,
        "elevation_m": 310,
        "areas": ["PEN"],
        **where,
        "observations": [look(line) for line in gold["looks"]],
    }


def verdict(gold: dict[str, Any]) -> str | None:
    """What is wrong with the answer; None where the case holds."""
    answer = name_plant(case_of(gold), shipped_flora())
    supported = answer["supported"] and answer["supported"]["taxon"]
    first = answer["candidates"][0]["taxon"]
    leading = [(c["taxon"], round(c["probability"], 2)) for c in answer["candidates"][:4]]
    if gold.get("none") and supported is not None:
        return f"named {supported}"
    if "name" in gold and supported not in gold["name"]:
        return f"supported {supported}, wanted {gold['name']}: {leading}"
    if "first" in gold and first not in gold["first"]:
        return f"first {first}, wanted {gold['first']}: {leading}"
    if gold.get("contradiction") and not answer["contradictions"]:
        return f"no objection: {leading}"
    if "either" in gold:
        pair = {t["taxon"] for t in answer["either"]["taxa"]} if answer["either"] else set()
        above = (
            supported is not None
            and supported not in shipped_flora().leaves
            and set(gold["either"]) <= set(shipped_flora().below[supported])
        )
        if pair != set(gold["either"]) and not above:
            return f"neither either nor their node ({supported}): {leading}"
    return None


class GoldCases(unittest.TestCase):
    def test_every_case_holds(self) -> None:
        golds = tomllib.loads(FILE.read_text(encoding="utf-8"))["case"]
        flora = shipped_flora()
        stops = [
            g
            for g in golds
            if g.get("none")
            or g.get("contradiction")
            or "either" in g
            or any(n not in flora.leaves for n in g.get("name", []))
        ]
        self.assertGreaterEqual(len(golds), 60)
        self.assertGreaterEqual(len(stops), len(golds) / 4)
        for gold in golds:
            with self.subTest(gold["title"]):
                self.assertIsNone(verdict(gold))
