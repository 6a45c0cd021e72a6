"""Times naming on the shipped flora: medians, and ratios to a yardstick of plain arithmetic in the same run."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import Flora
from jubark_core.naming.engine import name_plant

BASE = {"on": "2026-07-10", "lat": 40.5, "lon": -79.3, "elevation_m": 310, "areas": ["PEN"], "setting": "woodland", "origin": "wild"}


def looks_of(flora: Flora, taxon: str, number: int) -> list[dict[str, object]]:
    """The first `number` looks a typical plant of the taxon would give."""
    looks: list[dict[str, object]] = []
    for cid, variants in flora.taxa[taxon]["states"].items():
        v = variants[0]
        if "weights" in v:
            looks.append({"character": cid, "state": max(v["weights"], key=lambda s: v["weights"][s])})
        elif flora.characters[cid]["kind"] == "count":
            looks.append({"character": cid, "values": [round((v["low"] + v["high"]) / 2)]})
        else:
            looks.append({"character": cid, "values": [(v["low"] + v["high"]) / 2]})
    return looks[:number]


def median_ms(run: Callable[[], object], repeats: int = 15) -> float:
    """Median wall time of `run` in milliseconds."""
    times = []
    for _ in range(repeats):
        start = time.perf_counter()
        run()
        times.append((time.perf_counter() - start) * 1000)
    return statistics.median(times)


def bench() -> int:
    """Prints one line per case."""
    flora = shipped_flora()
    yardstick = median_ms(lambda: sum(i * i for i in range(200_000)))
    print(f"{len(flora.leaves)} taxa, {len(flora.characters)} characters; yardstick (200,000 squares summed) {yardstick:.1f} ms")
    for number in (0, 5, 20):
        case = {**BASE, "observations": looks_of(flora, "fagus-grandifolia", number)}
        ms = median_ms(lambda case=case: name_plant(case, flora))  # type: ignore[misc]
        print(f"{number:3d} looks: {ms:6.1f} ms, {ms / yardstick:5.2f} x yardstick")
    return 0
