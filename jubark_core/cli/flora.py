"""`python3 -m jubark_core flora check | show | compare | find | natives | compile`."""

from __future__ import annotations

import argparse
import json
import sys
from typing import Any

from jubark_core.errors import InputError
from jubark_core.flora.load import compile_sources, local_notes, shipped_flora
from jubark_core.flora.model import Flora, slug
from jubark_core.flora.names import find_names, kinds_sharing
from jubark_core.flora.review import (
    completeness,
    faults,
    look_alikes,
    natives_by_region,
    separating_any,
    weak_pairs,
)
from jubark_core.flora.toml_writer import as_toml
from jubark_core.species.portrait import as_page, compared
from jubark_core.species.side_by_side import FEWEST, MOST


def add_commands(commands: Any) -> None:
    """The commands of the flora and their options."""
    top = commands.add_parser("flora", help="check, show, compare and find taxa of the flora")
    sub = top.add_subparsers(required=True, metavar="WHAT")
    check = sub.add_parser(
        "check", help="the files' form, and whether what they say does its work; names file and line"
    )
    check.set_defaults(run=run_check)
    show = sub.add_parser("show", help="one taxon, as a page or as TOML")
    show.add_argument("taxon", help="id, accepted name or synonym")
    show.add_argument("--toml", action="store_true", help="as a file that can be read again")
    show.set_defaults(run=run_show)
    compare = sub.add_parser("compare", help="two to four taxa, only what differs")
    compare.add_argument("taxa", nargs="+", metavar="TAXON")
    compare.set_defaults(run=run_compare)
    find = sub.add_parser("find", help="taxa by accepted, old or common name, slips of spelling forgiven")
    find.add_argument("words")
    find.set_defaults(run=run_find)
    natives = sub.add_parser("natives", help="who is native where, by region, for an eye that knows it")
    natives.add_argument("region", nargs="?", default="", help="a part of the region's name")
    natives.set_defaults(run=run_natives)
    compiled = sub.add_parser(
        "compile", help="print the compiled flora as JSON (docs/compiled-flora.schema.json)"
    )
    compiled.set_defaults(run=run_compile)


def run_check(options: argparse.Namespace) -> int:
    """Checks the flora; exit 1 where a promise is broken."""
    flora = Flora(compile_sources())
    local_notes(flora.taxa)  # refuses a note on what is not there
    fewest = min(len(flora.taxa[t]["states"]) for t in flora.leaves)
    print(
        f"{len(flora.leaves)} taxa, {len(flora.characters)} characters, at least {fewest} scored in "
        f"each; version {flora.version}"
    )
    print("organ     taxa  characters scored (median, least)")
    for organ, taxa, middle, least, taxon in completeness(flora):
        print(f"{organ:8}  {taxa:4}  {middle:4g}  {least:3} in {taxon}")
    pairs = list(look_alikes(flora))
    print(f"{len(pairs)} pairs of look-alikes; resting on colour, smell or size alone:")
    for line in weak_pairs(flora):
        print(f"  {line}")
    wrong = faults(flora)
    for line in wrong:
        print(f"fault: {line}", file=sys.stderr)
    print("no fault found" if not wrong else f"{len(wrong)} faults")
    return 1 if wrong else 0


def taxon_of(words: str, flora: Flora) -> str:
    """The id of a described taxon. Raises InputError with the nearest names."""
    taxon = flora.resolve.get(slug(words))
    if taxon is None or taxon not in flora.leaves:
        near = ", ".join(row["taxon"] for row in find_names(words, flora, 4) if row["taxon"] in flora.leaves)
        raise InputError(
            "taxon", words, "a taxon of the flora" + (f", perhaps {near}" if near else ", see flora find")
        )
    return taxon


def run_show(options: argparse.Namespace) -> int:
    """One taxon."""
    flora = shipped_flora()
    taxon = taxon_of(options.taxon, flora)
    print(as_toml(flora, taxon) if options.toml else as_page(flora, taxon))
    return 0


def run_compare(options: argparse.Namespace) -> int:
    """Two to four taxa side by side: what parts any two of them in leaf, then what does in winter."""
    flora = shipped_flora()
    taxa = list(dict.fromkeys(taxon_of(words, flora) for words in options.taxa))
    if not FEWEST <= len(taxa) <= MOST:
        raise InputError("taxa", len(taxa), f"{FEWEST} to {MOST} different taxa")
    done: set[str] = set()
    for season, title in (("summer", "In leaf"), ("winter", "In winter")):
        apart = [cid for cid in separating_any(flora, taxa, season) if cid not in done]
        done.update(apart)
        print(f"{title}:" if apart else f"{title}: nothing more parts them.")
        if apart:
            print(compared(flora, taxa, apart))
    return 0


def run_find(options: argparse.Namespace) -> int:
    """Names that fit; one common name over several kinds says so."""
    flora = shipped_flora()
    rows = find_names(options.words, flora)
    for row in rows:
        print(f"{row['name']:34} {row['rank']:8} {row['matched']} ({row['how']})")
    shared = kinds_sharing(options.words, flora)
    if len(shared) > 1:
        print(
            f"'{options.words}' is the name of several kinds that are not each other's: "
            + ", ".join(flora.taxa[t]["name"] for t in shared)
        )
    if not rows:
        print("no name fits")
    return 0 if rows else 1


def run_natives(options: argparse.Namespace) -> int:
    """Natives of every region, or of those whose name holds the words."""
    flora = shipped_flora()
    found = [row for row in natives_by_region(flora) if options.region.lower() in row[0].lower()]
    if not found:
        names = ", ".join(row[0] for row in natives_by_region(flora))
        raise InputError("region", options.region, f"a part of one of {names}")
    for name, codes, whole, part in found:
        if whole or part or options.region:
            some = [f"{taxon} ({' '.join(here)})" for taxon, here in part.items()]
            print(f"{name}: {' '.join(codes)}")
            print(f"  in all of it ({len(whole)}): {', '.join(whole) or 'none'}")
            print(f"  in part ({len(part)}): {', '.join(some) or 'none'}")
    return 0


def run_compile(options: argparse.Namespace) -> int:
    """Prints the compiled flora."""
    json.dump(compile_sources(), sys.stdout, ensure_ascii=False)
    print()
    return 0
