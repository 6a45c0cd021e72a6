"""Times naming: medians on the shipped flora and on one of 400 taxa × 180 characters, as ratios to plain
arithmetic in the same run.
"""

from __future__ import annotations

import copy
import functools
import random
import statistics
import time
import tracemalloc
from collections.abc import Callable
from typing import Any

from jubark_core.door import run
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import Flora
from jubark_core.naming.engine import RunningCase, name_plant
from jubark_core.signs.diagnose import diagnose

BASE = {
    "on": "2026-07-10",
    "lat": 40.5,
    "lon": -79.3,
    "elevation_m": 310,
    "areas": ["PEN"],
    "setting": "woodland",
    "origin": "wild",
}
TAXA, CHARACTERS = 400, 180
GOALS_MS = {0: 60, 5: 25, 20: 25}
MODEL = "fagus-grandifolia"


def yardstick_ms() -> float:
    """Plain arithmetic of this machine in this run, against which times are told."""
    return median_ms(lambda: sum(i * i for i in range(200_000)))


def looks_of(flora: Flora, taxon: str, number: int) -> list[dict[str, object]]:
    """The first `number` looks a typical plant of the taxon would give: leaf, bark and twig as they come,
    evenly spread.
    """
    looks: list[dict[str, object]] = []
    for cid, variants in flora.taxa[taxon]["states"].items():
        v = variants[0]
        if cid not in flora.characters:
            continue
        if "weights" in v:
            looks.append({"character": cid, "state": max(v["weights"], key=lambda s: v["weights"][s])})
        elif flora.characters[cid]["kind"] == "count":
            looks.append({"character": cid, "values": [round((v["low"] + v["high"]) / 2)] * 5})
        else:
            looks.append({"character": cid, "values": [(v["low"] + v["high"]) / 2] * 5})
    step = max(1, len(looks) // max(1, number))
    return looks[::step][:number]


def large_flora(flora: Flora, taxa: int = TAXA, characters: int = CHARACTERS) -> Flora:
    """A flora of the size asked for, made of the shipped taxa with their states and ranges moved about
    (seeded).
    """
    rng = random.Random(1)
    compiled: dict[str, Any] = {**flora.compiled, "taxa": dict(flora.taxa)}
    told = {cid: sum(cid in flora.taxa[t]["states"] for t in flora.leaves) for cid in flora.characters}
    kept = set(sorted(told, key=lambda cid: (-told[cid], cid))[:characters])
    compiled["characters"] = {cid: c for cid, c in flora.characters.items() if cid in kept}
    for t in flora.leaves[taxa:]:
        del compiled["taxa"][t]
    for t, node in compiled["taxa"].items():  # pairs are told apart by what is left
        pairs = [
            {**pair, "by": [cid for cid in pair["by"] if cid in kept]}
            for pair in node.get("look_alikes", ())
            if pair["taxon"] in compiled["taxa"]
        ]
        compiled["taxa"][t] = {**node, "look_alikes": pairs} if pairs else node
    for i in range(max(0, taxa - len(flora.leaves))):
        model = flora.leaves[i % len(flora.leaves)]
        copied = copy.deepcopy(flora.taxa[model])
        for variants in copied["states"].values():
            for v in variants:
                if "weights" in v:
                    words, weights = list(v["weights"]), list(v["weights"].values())
                    rng.shuffle(weights)
                    v["weights"] = dict(zip(words, weights, strict=True))
                elif "low" in v:
                    factor = rng.uniform(0.7, 1.4)
                    v["low"], v["high"] = v["low"] * factor, v["high"] * factor
        compiled["taxa"][f"{model}-{i}"] = copied
    return Flora(compiled)


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
    stick = yardstick_ms()
    print(f"yardstick (200,000 squares summed): {stick:.1f} ms")
    shipped = shipped_flora()
    for flora in (shipped, large_flora(shipped)):
        print(f"{len(flora.leaves)} taxa, {len(flora.characters)} characters")
        for number, goal in GOALS_MS.items():
            case = {**BASE, "observations": looks_of(flora, MODEL, number)}
            ms = median_ms(functools.partial(name_plant, case, flora))
            print(
                f"  {number:2d} looks          {ms:6.1f} ms  {ms / stick:5.2f} x yardstick  (goal {goal} ms)"
            )
        five = {**BASE, "observations": looks_of(flora, MODEL, 5)}
        for half in ("rank", "next"):
            ms = median_ms(functools.partial(run, half, five, flora))
            print(f"  5 looks, {half:4}     {ms:6.1f} ms  {ms / stick:5.2f} x yardstick")
        with_it, without = (
            median_ms(functools.partial(_last_look, flora, *more), 9) for more in ((), (False,))
        )
        ms = with_it - without
        print(f"  one look more     {ms:6.1f} ms  {ms / stick:5.2f} x yardstick  (goal 10 ms)")
    for number in (1, 3):
        ms = median_ms(functools.partial(diagnose, ailing(number), shipped))
        print(f"diagnosis, {number} signs on an ash  {ms:6.1f} ms  {ms / stick:5.2f} x yardstick")
    genus = {**ailing(1), "host": [{"taxon": "quercus", "probability": 1.0}]}
    ms = median_ms(functools.partial(diagnose, genus, shipped))
    print(f"diagnosis, 1 sign on an oak of any kind  {ms:6.1f} ms  {ms / stick:5.2f} x yardstick")
    print(f"memory of the larger flora and its naming: {_memory_mb(shipped):.0f} MB (goal 80 MB)")
    return 0


def ailing(signs: int) -> dict[str, Any]:
    """A case of plant health with so many signs."""
    seen = ({"sign": "exit_hole_d", "size_mm": 3.5}, {"sign": "thinning_from_top"}, {"sign": "lichen_moss"})
    place = {key: BASE[key] for key in ("on", "lat", "lon", "elevation_m", "areas")}
    return {**place, "host": [{"taxon": "fraxinus-americana", "probability": 0.97}], "signs": [*seen[:signs]]}


def _last_look(flora: Flora, answered: bool = True) -> None:
    """A running case of five looks gains a sixth; without `answered` only what precedes that."""
    looks = looks_of(flora, MODEL, 6)
    running = RunningCase(flora)
    running.name({**BASE, "observations": looks[:5]})
    if answered:
        running.name({**BASE, "observations": looks})


def _memory_mb(shipped: Flora) -> float:
    """Peak of what Python allocates for the larger flora, its caches and three namings, in MB."""
    tracemalloc.start()
    flora = large_flora(shipped)
    for number in GOALS_MS:
        name_plant({**BASE, "observations": looks_of(flora, MODEL, number)}, flora)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return peak / 2**20
