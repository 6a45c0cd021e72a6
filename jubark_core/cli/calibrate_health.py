"""`python3 -m jubark_core calibrate-health`: virtual sick and sound trees, and how far diagnosis holds."""

from __future__ import annotations

from jubark_core.flora.load import shipped_flora
from jubark_core.signs.simulator import HOSTS, trial


def calibrate_health(trees: int, seed: int) -> int:
    """Prints the report of one trial."""
    found = trial(shipped_flora(), trees, seed, HOSTS)
    print(f"{found.trees} trees, {found.with_signs} with a sign reported; leader right {found.right:.3f}")
    print(f"calibration error of the leader {found.error:.3f}")
    print(f"grave causes missed {found.missed:.3f} of {found.grave}")
    print(f"harmless things called grave {found.alarmed:.3f} of {found.calm}")
    print("This measures consistency, not truth: the trees are drawn from the data's descriptions, worsened.")
    return 0
