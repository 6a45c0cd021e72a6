"""`python3 -m jubark_core OPERATION INPUT.json [--flora FILE]`: every operation of the door, and tools."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from jubark_core import door
from jubark_core.cli import flora
from jubark_core.door import OPERATIONS
from jubark_core.errors import InputError, JubarkError


def main(arguments: list[str]) -> int:
    """Runs one command; 0 when done, 2 with one line on standard error for bad input."""
    try:
        options = parser().parse_args(arguments)
        return int(options.run(options))
    except JubarkError as error:
        print(f"jubark_core: {error}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0


def parser() -> argparse.ArgumentParser:
    """The commands and their options."""
    top = argparse.ArgumentParser(
        prog="python3 -m jubark_core", description="Jubark's rules and arithmetic on the command line."
    )
    commands = top.add_subparsers(required=True, metavar="COMMAND")
    for operation, what in OPERATIONS.items():
        text = what.summary[0].lower() + what.summary[1:].rstrip(".")
        sub = commands.add_parser(operation, help=text, description=what.summary)
        sub.add_argument("input", metavar="INPUT.json", help="what is asked: a file, or - for standard input")
        sub.add_argument("--flora", metavar="FILE", help="a compiled flora instead of the shipped one")
        sub.set_defaults(run=run_operation, operation=operation)
    flora.add_commands(commands)
    for command, run, text in (
        ("records", run_records, "docs/records.md: every record as it is described"),
        ("glossary", run_glossary, "docs/glossary.md: every term with its meaning and unit"),
    ):
        commands.add_parser(command, help=f"print {text}").set_defaults(run=run)
    bench = commands.add_parser("bench", help="time naming and print milliseconds and ratios")
    bench.set_defaults(run=run_bench)
    calibrate = commands.add_parser(
        "calibrate", help="name virtual plants and say how far stated probabilities hold"
    )
    calibrate.add_argument("--plants", type=whole(1, 1_000_000), default=400, metavar="N")
    calibrate.add_argument("--seed", type=whole(0, 2**32), default=1, metavar="S")
    calibrate.add_argument(
        "--fit", action="store_true", help="fit the weights of groups and write their data file"
    )
    calibrate.set_defaults(run=run_calibrate)
    ailing = commands.add_parser(
        "calibrate-health", help="diagnose virtual trees and say how far stated probabilities hold"
    )
    ailing.add_argument("--trees", type=whole(1, 1_000_000), default=3000, metavar="N")
    ailing.add_argument("--seed", type=whole(0, 2**32), default=11, metavar="S")
    ailing.set_defaults(run=run_calibrate_health)
    return top


def whole(low: int, high: int) -> Callable[[str], int]:
    """A whole number within bounds, for an option; argparse names the option and says what is allowed."""

    def read(text: str) -> int:
        if not text.isdigit() or not low <= int(text) <= high:
            raise argparse.ArgumentTypeError(f"{text!r} is not allowed; a whole number from {low} to {high}")
        return int(text)

    return read


def read_json(path: str) -> Any:
    """The JSON of a file or of standard input. Raises InputError when it is not JSON."""
    try:
        text = sys.stdin.read() if path == "-" else Path(path).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise InputError(path, str(error), "a readable file in UTF-8") from None
    try:
        return json.loads(text, parse_constant=_refuse_constant)
    except (ValueError, RecursionError) as error:
        raise InputError("standard input" if path == "-" else path, str(error), "JSON as RFC 8259") from None


def _refuse_constant(word: str) -> Any:
    raise ValueError(f"{word} is not JSON")


def flora_of(options: argparse.Namespace) -> Any:
    """The flora named by --flora, or the shipped one."""
    from jubark_core.flora.load import flora_from_file, shipped_flora

    return flora_from_file(options.flora) if options.flora else shipped_flora()


def run_operation(options: argparse.Namespace) -> int:
    """Prints the answer of an operation of the door: what is text as text, all else as JSON."""
    answer = door.run(options.operation, read_json(options.input), flora_of(options))
    if isinstance(answer, dict) and answer.keys() == {"text"}:
        print(answer["text"])
        return 0
    json.dump(answer, sys.stdout, indent=1, allow_nan=False, ensure_ascii=False)
    print()
    return 0


def run_calibrate(options: argparse.Namespace) -> int:
    """Names virtual plants."""
    from jubark_core.cli.calibrate import calibrate

    return calibrate(options.plants, options.seed, options.fit)


def run_calibrate_health(options: argparse.Namespace) -> int:
    """Diagnoses virtual trees."""
    from jubark_core.cli.calibrate_health import calibrate_health

    return calibrate_health(options.trees, options.seed)


def run_records(options: argparse.Namespace) -> int:
    """Prints the description of every record."""
    from jubark_core.records.document import document

    print(document(), end="")
    return 0


def run_glossary(options: argparse.Namespace) -> int:
    """Prints the glossary."""
    from jubark_core.cli.glossary import whole_glossary

    print(whole_glossary(), end="")
    return 0


def run_bench(options: argparse.Namespace) -> int:
    """Times the engine."""
    from jubark_core.cli.bench import bench

    return bench()
