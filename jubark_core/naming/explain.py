"""The balance of a case in plain words, for the command line and for screen readers."""

from __future__ import annotations

from typing import Any

from jubark_core.flora.model import Flora
from jubark_core.naming.contract import Explanation
from jubark_core.naming.engine import name_plant


def explained(case: Any, flora: Flora) -> Explanation:
    """The operation: a case in, its balance in words out. Raises InputError."""
    return {"text": explain_answer(case, flora)}


def explain_answer(case: Any, flora: Flora) -> str:
    """A few lines: the name supported, each candidate with what speaks for and against it, the next look."""
    answer = name_plant(case, flora)
    lines = [_headline(answer)]
    for c in answer["candidates"][:4]:
        lines.append(f"{c['name']} ({c['common']}): {c['probability']:.0%}")
        for word, rows in (("for", c["for"]), ("against", c["against"])):
            for row in rows[:4]:
                lines.append(
                    f"  {word}: {flora.characters[row['character']]['label']} ({abs(row['bits']):.1f} bits)"
                )
    for rival in answer["not_yet_told_from"][:3]:
        wanted = ", ".join(flora.characters[cid]["label"].lower() for cid in rival["looks"][:3])
        lines.append(f"Not yet separated from {rival['name']}" + (f": look at {wanted}." if wanted else "."))
    for odd in answer["contradictions"]:
        lines.append(f"Odd: {odd['why']}")
    if answer["next_looks"]:
        best = answer["next_looks"][0]
        lines.append(
            f"Next: {flora.characters[best['character']]['label']} ({best['gain_bits']:.2f} bits in "
            f"{best['effort_s']} s). {best['how']}"
        )
    for item in answer["withheld"][:2]:
        lines.append(f"Withheld: {flora.characters[item['character']]['label']}. {item['why']}")
    return "\n".join(lines)


def _headline(answer: dict[str, Any]) -> str:
    name = answer["supported"]
    if name is None:
        return "No name is supported yet."
    only = f" It rests on the {name['organs'][0]} alone." if name["one_organ"] else ""
    return f"Supported: {name['name']}, {name['rank']}, {name['probability']:.0%}.{only}"
