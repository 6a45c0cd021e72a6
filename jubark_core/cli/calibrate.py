"""`python3 -m jubark_core calibrate`: virtual plants, and the weights of groups fitted on them."""

from __future__ import annotations

import json
from pathlib import Path

from jubark_core.flora.load import GROUP_WEIGHTS, shipped_flora
from jubark_core.naming.fitting import fitted_weights
from jubark_core.naming.simulator import Trial, mean_log_loss, mean_looks, report, run_trial

MOST_FOR_ORDERS = 60
FIT_TRIALS = 4


def calibrate(plants: int, seed: int, fit: bool) -> int:
    """Prints the report; with `fit`, fits the group weights first and writes them to their data file."""
    if fit:
        weights = fitted_weights(
            [run_trial(shipped_flora(), plants // FIT_TRIALS, seed + i) for i in range(FIT_TRIALS)]
        )
        command = f"python3 -m jubark_core calibrate --fit --plants {plants} --seed {seed}"
        note = (
            "Weight of each group of correlated looks in the sum of evidence, fitted on virtual "
            "plants by the command."
        )
        GROUP_WEIGHTS.write_text(
            json.dumps({"note": note, "command": command, "weights": weights}, indent=1) + "\n",
            encoding="utf-8",
        )
        print(f"{Path(GROUP_WEIGHTS).name}: {json.dumps(weights)}")
        return 0
    print_trial(run_trial(shipped_flora(), plants, seed), seed)
    return 0


def print_trial(trial: Trial, seed: int) -> None:
    """The report as a table."""
    print("plants  top-1  top-3  Brier  calibration error (floor)  wrong species above 0.9")
    for row in report(trial):
        print(
            f"{row.plants:6d}  {row.top1:5.3f}  {row.top3:5.3f}  {row.brier:5.3f}  {row.error:5.3f} "
            f"({row.floor:.3f})"
            f"              {row.wrong_above:5.3f}   {row.name}"
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
