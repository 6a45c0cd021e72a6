"""`python3 -m jubark_core calibrate`: virtual plants, and the correlations of groups of looks fitted on
them.
"""

from __future__ import annotations

import json
from pathlib import Path

from jubark_core.flora.load import GROUP_CORRELATIONS, shipped_flora
from jubark_core.naming.fitting import fitted_correlations
from jubark_core.naming.simulator import Trial, mean_log_loss, mean_looks, report, run_trial

MOST_FOR_ORDERS = 60
FIT_TRIALS = 4


def calibrate(plants: int, seed: int, fit: bool) -> int:
    """Prints the report; with `fit`, fits the correlations of groups first and writes them to their data
    file.
    """
    if fit:
        correlations = fitted_correlations(
            [run_trial(shipped_flora(), plants // FIT_TRIALS, seed + i) for i in range(FIT_TRIALS)]
        )
        command = f"python3 -m jubark_core calibrate --fit --plants {plants} --seed {seed}"
        note = (
            "How far two looks of a group are one witness: 0 none, 1 wholly. Fitted on virtual plants by "
            "the command."
        )
        GROUP_CORRELATIONS.write_text(
            json.dumps({"note": note, "command": command, "correlations": correlations}, indent=1) + "\n",
            encoding="utf-8",
        )
        print(f"{Path(GROUP_CORRELATIONS).name}: {json.dumps(correlations)}")
        return 0
    print_trial(run_trial(shipped_flora(), plants, seed), seed)
    return 0


def print_trial(trial: Trial, seed: int) -> None:
    """The report as a table."""
    print("plants  top-1  top-3  Brier  calibration error (floor)  wrong species above 0.9, above the truth")
    for row in report(trial):
        print(
            f"{row.plants:6d}  {row.top1:5.3f}  {row.top3:5.3f}  {row.brier:5.3f}  {row.error:5.3f} "
            f"({row.floor:.3f})"
            f"              {row.wrong_above:5.3f}                 {row.holds_above:5.3f}   {row.name}"
        )
    print(f"mean log loss {mean_log_loss(trial):.3f} nats over {len(trial.steps)} looks")
    means = mean_looks(trial, MOST_FOR_ORDERS, seed)
    print(
        "to settle: "
        + ", ".join(
            f"{looks:.1f} looks ({seconds:.0f} s) by {order}" for order, (looks, seconds) in means.items()
        )
    )
    print(
        "This measures consistency, not truth: the plants are drawn from the flora's own descriptions, "
        "worsened."
    )
