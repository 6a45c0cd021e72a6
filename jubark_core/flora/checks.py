"""Refuses flora files that break a rule, naming the file and the line."""

from __future__ import annotations

import datetime
import re
from typing import Any

from jubark_core.errors import FloraError
from jubark_core.flora.areas import WORLD, area_index, by_area, expand_areas, known_areas
from jubark_core.flora.inherited import uncertain_inheritance
from jubark_core.flora.notation import DOES_NOT_APPLY, frequencies, is_by_time
from jubark_core.flora.words import (
    COMMONNESS,
    FREQUENCY,
    HARMED,
    KINDS,
    MEMORY,
    POISON,
    REACHES,
    SEX_SYSTEMS,
    TOOLS,
    TRADES,
    VISIBLE,
)
from jubark_core.records.words import RANKS, SETTINGS, STAGES
from jubark_core.season.calendars import calendars

ID = re.compile(r"^[a-z][a-z0-9]*(-[a-z0-9]+)*$")
EVENTS = ("bud_burst", "leaf_out", "flower", "fruit_set", "ripe", "fall", "fruit_hangs_until")
TAXON_KEYS = {
    "id",
    "name",
    "rank",
    "common",
    "synonyms",
    "section",
    "native",
    "introduced",
    "invasive",
    "wild",
    "planted",
    "trade",
    "poison",
    "deadly_double_of",
    "habitat",
    "hardiness",
    "height_m",
    "spread_m",
    "longevity_y",
    "sexes",
    "phenology",
    "cautions",
    "uses",
    "pests",
    "irritant",
    "look_alikes",
    "characters",
    "cultivar",
    "protected_note",
    "winter_note",
    "stop_at",
    "parents",
    "rhythm",
    "inseparable_in",
    "shared_names",
    "wildlife",
    "reference",
    "phenology_at",
    "sources",
}
ORIGIN_KEYS = {"version": int, "date": str, "from": str, "against": list, "read_by": str}
REQUIRED = (
    "id",
    "name",
    "common",
    "native",
    "habitat",
    "phenology",
    "sexes",
    "height_m",
    "characters",
)


def check_sources(
    vocabulary: dict[str, Any],
    areas: dict[str, Any],
    families: dict[str, Any],
    taxa_files: dict[str, tuple[dict[str, Any], str]],
) -> None:
    """Raises FloraError for the first rule broken in the vocabulary or in any taxon file.

    taxa_files: file name -> (parsed TOML, its text); the text only serves to find the line.
    """
    check_vocabulary(vocabulary)
    ids: dict[str, str] = {}
    for file, (data, text) in taxa_files.items():
        genus = data.get("genus", {})
        if genus.get("family") not in families["family"]:
            raise FloraError(file, line_of(text, "family"), f"unknown family {genus.get('family')!r}")
        if "origin" in data:
            _check_origin(file, text, data["origin"])
        _check_characters(file, text, genus.get("characters", {}), vocabulary, after="[genus.characters]")
        sections = {genus.get("id")}
        for section in data.get("section", []):
            _check_section(file, text, section, sections)
            sections.add(section["id"])
            _check_characters(
                file, text, section.get("characters", {}), vocabulary, after=f'id = "{section["id"]}"'
            )
        for taxon in data.get("taxon", []):
            _check_taxon(file, text, {**genus.get("defaults", {}), **taxon}, vocabulary, areas)
            if taxon["id"] in ids:
                raise FloraError(
                    file, line_of(text, f'"{taxon["id"]}"'), f"{taxon['id']} stands in {ids[taxon['id']]} too"
                )
            if taxon.get("section", genus["id"]) not in sections:
                raise FloraError(
                    file,
                    line_of(text, "section", f'id = "{taxon["id"]}"'),
                    f"section {taxon['section']!r} is not in this file",
                )
            ids[taxon["id"]] = file
        for node, cid, state, species in uncertain_inheritance(data):
            raise FloraError(
                file,
                line_of(text, f"{cid} =", f'id = "{node}"'),
                f"{cid}: {state!r} is always there by {node}, not by {species}; write 'usually'",
            )
    for family in families["family"].values():
        _check_characters("families.toml", "", family.get("characters", {}), vocabulary, after="")
    for file, (data, text) in taxa_files.items():
        for taxon in data.get("taxon", []):
            for other in [pair["taxon"] for pair in taxon.get("look_alikes", [])] + [
                *taxon.get("parents", []),
                *taxon.get("deadly_double_of", []),
            ]:
                if other not in ids:
                    raise FloraError(
                        file,
                        line_of(text, other),
                        f"{other!r} (look-alike, double or parent) is not in the flora",
                    )


def _check_origin(file: str, text: str, origin: dict[str, Any]) -> None:
    """Where the values of a file come from: all of version, date, from, against and read_by."""
    line = line_of(text, "[origin]")
    for key, kind in ORIGIN_KEYS.items():
        if not isinstance(origin.get(key), kind):
            at = line_of(text, f"{key} =", "[origin]") if key in origin else line
            raise FloraError(file, at, f"origin: {key} {origin.get(key)!r}; {kind.__name__} is wanted")
    if unknown := sorted(origin.keys() - ORIGIN_KEYS.keys()):
        raise FloraError(file, line, f"origin: unknown key {unknown[0]!r}")
    if origin["from"] != MEMORY and origin["from"] not in origin["against"]:
        at = line_of(text, "from =", "[origin]")
        raise FloraError(file, at, f"origin: from {origin['from']!r}; {MEMORY!r} or a work of `against`")
    if origin["read_by"] and not origin["against"]:
        raise FloraError(file, line, "origin: read against which work")


def _check_section(file: str, text: str, section: dict[str, Any], known: set[str]) -> None:
    line = line_of(text, f'id = "{section.get("id", "")}"')
    if not ID.match(section.get("id", "")) or "name" not in section:
        raise FloraError(file, line, "a section needs id and name")
    if section.get("rank", "section") not in RANKS or section.get(
        "parent", next(iter(known))
    ) not in known | {None}:
        raise FloraError(
            file,
            line,
            f"{section['id']}: rank one of {', '.join(RANKS)}; parent a section above it in this file",
        )


def check_vocabulary(vocabulary: dict[str, Any]) -> None:
    """Raises FloraError for a character that lacks a part or names an unknown word."""
    file = "characters.toml"
    for cid, c in vocabulary["character"].items():
        organ = vocabulary["organ"].get(cid.split(".")[0])
        if organ is None:
            raise FloraError(file, 0, f"{cid}: unknown organ")
        merged = {**organ, **c}
        if c["kind"] not in KINDS:
            raise FloraError(file, 0, f"{cid}: kind {c['kind']!r}, allowed {', '.join(KINDS)}")
        for key, words in (("tools", TOOLS), ("reach", REACHES), ("visible", VISIBLE), ("stages", STAGES)):
            for word in merged.get(key, []):
                if word not in words:
                    raise FloraError(file, 0, f"{cid}: {key} {word!r}, allowed {', '.join(words)}")
        if c["kind"] in ("one", "many"):
            _check_confusions(file, cid, c)
            _check_retired(file, cid, vocabulary["character"])
        elif not {"unit", "range", "scale", "between"} <= c.keys():
            raise FloraError(file, 0, f"{cid}: a {c['kind']} needs unit, range, scale and between")


def _check_retired(file: str, cid: str, characters: dict[str, Any]) -> None:
    """What a retired state is read as: states of one character of which each state is one at a time."""
    c = characters[cid]
    for state in (*c.get("retired", {}), *c.get("means", {})):
        if state not in c["states"]:
            raise FloraError(file, 0, f"{cid}: unknown state {state!r} is retired or explained")
    for state, now in c.get("retired", {}).items():
        [(other, states)] = now.items()
        if characters.get(other, {}).get("kind") != "one":
            raise FloraError(
                file, 0, f"{cid}: {state!r} is read as {other!r}, which is no character of one state"
            )
        retired = characters[other].get("retired", {})
        for s in states:
            if s not in characters[other]["states"] or s in retired:
                raise FloraError(
                    file, 0, f"{cid}: {state!r} is read as {other} = {s!r}, which is not offered"
                )


def _check_confusions(file: str, cid: str, c: dict[str, Any]) -> None:
    for true_state, reported in c.get("confusions", {}).items():
        for state in (true_state, *reported):
            if state not in c["states"]:
                raise FloraError(file, 0, f"{cid}: confusion with unknown state {state!r}")
        if sum(reported.values()) >= 1:
            raise FloraError(file, 0, f"{cid}: confusions of {true_state!r} add to 1 or more")


def _check_taxon(
    file: str, text: str, taxon: dict[str, Any], vocabulary: dict[str, Any], areas: dict[str, Any]
) -> None:
    at = f'id = "{taxon.get("id", "")}"'
    line = line_of(text, at)
    for key in taxon:
        if key not in TAXON_KEYS:
            raise FloraError(file, line_of(text, key, at), f"unknown key {key!r}")
    for key in REQUIRED:
        if key not in taxon:
            raise FloraError(file, line, f"{taxon.get('id')}: {key} is missing")
    if not ID.match(taxon["id"]):
        raise FloraError(file, line, f"id {taxon['id']!r}: lower-case ASCII words joined by hyphens")
    for key in ("native", "introduced", "invasive"):
        try:
            expand_areas(taxon.get(key, []), areas)
        except KeyError as error:
            raise FloraError(
                file,
                line_of(text, key, at),
                f"{key}: unknown area {error}; allowed {len(known_areas(areas))} codes of areas.toml",
            ) from None
    _check_commonness(file, text, at, taxon, areas)
    _check_poison(file, text, at, taxon)
    for setting in taxon["habitat"]:
        if setting not in SETTINGS:
            raise FloraError(
                file, line_of(text, "habitat", at), f"habitat {setting!r}; one of {', '.join(SETTINGS)}"
            )
    if taxon["sexes"] not in SEX_SYSTEMS:
        raise FloraError(
            file, line_of(text, "sexes", at), f"sexes {taxon['sexes']!r}; one of {', '.join(SEX_SYSTEMS)}"
        )
    for key in ("height_m", "spread_m", "hardiness", "longevity_y"):
        if key in taxon:
            _check_range(file, line_of(text, key, at), key, taxon[key], 0, 1000)
    line = line_of(text, "phenology", at)
    _check_phenology(file, line, taxon["phenology"])
    for anchor, own in taxon.get("phenology_at", {}).items():
        if anchor not in calendars().anchors:
            raise FloraError(file, line, f"phenology_at {anchor!r}; one of {', '.join(calendars().anchors)}")
        _check_phenology(file, line, own)
        if own.keys() != taxon["phenology"].keys():  # half its own, half carried: events would change order
            raise FloraError(file, line, f"phenology_at {anchor}: the same events as phenology")
    _check_asides(file, text, at, taxon, vocabulary)
    _check_characters(file, text, taxon["characters"], vocabulary, after=at)
    own = taxon["characters"]
    for cid, source in taxon.get("sources", {}).items():
        if cid not in own or not isinstance(source, str) or not source.strip():
            raise FloraError(
                file,
                line_of(text, "sources", at),
                f"source {source!r} of {cid!r}: a work, of a fact of its own",
            )
    for pair in taxon.get("look_alikes", []):
        for cid in pair["by"]:
            if cid not in vocabulary["character"]:
                raise FloraError(file, line_of(text, cid, at), f"look-alike by unknown character {cid!r}")


def _check_commonness(file: str, text: str, at: str, taxon: dict[str, Any], areas: dict[str, Any]) -> None:
    """Classes of areas, each area once, none that nativity speaks against."""
    places = {
        "wild": {*known_areas(areas), *("@" + region for region in areas["region"]), WORLD},
        "planted": {*known_areas(areas), *areas["planted_region"], WORLD},
    }
    for side, known in places.items():
        line = line_of(text, f"{side} =", at)
        keys = [key for keys in taxon.get(side, {}).values() for key in keys.split()]
        for word in taxon.get(side, {}):
            if word not in COMMONNESS:
                raise FloraError(file, line, f"{side}: class {word!r}; one of {', '.join(COMMONNESS)}")
        for key in keys:
            if key not in known:
                raise FloraError(file, line, f"{side}: unknown area {key!r}")
            if keys.count(key) > 1:
                raise FloraError(file, line, f"{side}: {key} stands in two classes")
    if taxon.get("trade", "commerce") not in TRADES:
        raise FloraError(
            file, line_of(text, "trade", at), f"trade {taxon['trade']!r}; one of {', '.join(TRADES)}"
        )
    native, grows = (
        set(expand_areas([e for key in keys for e in taxon.get(key, [])], areas))
        for keys in (("native",), ("native", "introduced", "invasive"))
    )
    regions = {"@" + region: set(codes) for region, codes in areas["region"].items()}
    for key, word in by_area(taxon.get("wild", {})).items():
        line, here = line_of(text, "wild =", at), regions.get(key, {key})
        if key != WORLD and not here & grows:
            raise FloraError(file, line, f"wild: {word} in {key}, where it neither is native nor introduced")
        if word == "absent" and here & native:
            raise FloraError(file, line, f"wild: absent in {key}, where it is native")
    _check_hardiness(file, text, at, taxon, areas)


def _check_hardiness(file: str, text: str, at: str, taxon: dict[str, Any], areas: dict[str, Any]) -> None:
    """What is planted in a region lives through its winters."""
    index = area_index(areas)
    low, high = taxon.get("hardiness", (1, 13))
    for key, word in by_area(taxon.get("planted", {})).items():
        zones = [area["zone"] for area in index.values() if key in area["planted_under"] and area["zone"]]
        if word in ("rare", "absent") or key == WORLD or not zones:
            continue
        coldest, warmest = min(z[0] for z in zones), max(z[1] for z in zones)
        if high < coldest or low > warmest:
            raise FloraError(
                file,
                line_of(text, "hardiness", at),
                f"planted: {word} in {key} (zones {coldest} to {warmest}), hardy in {low} to {high}",
            )


def _check_poison(file: str, text: str, at: str, taxon: dict[str, Any]) -> None:
    poison = taxon.get("poison")
    if poison is not None and not (
        isinstance(poison, dict)
        and poison.get("level") in POISON
        and poison.get("parts")
        and set(poison.get("harms", ())) <= set(HARMED)
        and poison.get("harms")
    ):
        raise FloraError(
            file,
            line_of(text, "poison =", at),
            f"poison = {{ level = one of {', '.join(POISON)}, parts = which, "
            f"harms = some of {', '.join(HARMED)} }}",
        )
    if (poison or taxon.get("irritant")) and not taxon.get("cautions"):
        raise FloraError(file, line_of(text, at), f"{taxon['id']}: a hazard needs a caution")
    if taxon.get("deadly_double_of") and not poison:
        raise FloraError(
            file, line_of(text, "deadly_double_of", at), f"{taxon['id']}: a double needs its poison"
        )


def _check_asides(file: str, text: str, at: str, taxon: dict[str, Any], vocabulary: dict[str, Any]) -> None:
    """Rank, cultivars and where naming stops."""
    if taxon.get("rank", "species") not in RANKS:
        raise FloraError(
            file, line_of(text, "rank", at), f"rank {taxon['rank']!r}; one of {', '.join(RANKS)}"
        )
    stop = taxon.get("stop_at")
    if stop is not None and not (isinstance(stop, dict) and stop.get("rank") in RANKS and stop.get("why")):
        raise FloraError(
            file, line_of(text, "stop_at", at), "stop_at = { rank = one of the ranks, why = the reason }"
        )
    for cultivar in taxon.get("cultivar", []):
        if (
            not {"kind", "share"} <= cultivar.keys()
            or not 0 < cultivar["share"] <= 1
            or not 0 <= cultivar.get("bears", 1) <= 1
        ):
            raise FloraError(
                file,
                line_of(text, "cultivar", at),
                "a cultivar needs kind and share (over 0 to 1), and may say bears (0 to 1)",
            )
        _check_characters(file, text, cultivar.get("characters", {}), vocabulary, after=at)


def _check_phenology(file: str, line: int, phenology: dict[str, Any]) -> None:
    for event, value in phenology.items():
        if event not in EVENTS:
            raise FloraError(file, line, f"phenology {event!r}; one of {', '.join(EVENTS)}")
        for day in value if isinstance(value, list) else [value]:
            try:
                datetime.date.fromisoformat(f"2025-{day}")
            except ValueError:
                raise FloraError(file, line, f"phenology {event}: {day!r} is not MM-DD") from None


def _check_characters(
    file: str, text: str, characters: dict[str, Any], vocabulary: dict[str, Any], after: str
) -> None:
    for cid, value in characters.items():
        line = line_of(text, f"{cid} =", after)
        c = vocabulary["character"].get(cid)
        if c is None:
            raise FloraError(file, line, f"unknown character {cid!r}")
        for part in value.values() if is_by_time(value) else [value]:
            if part in ("-", DOES_NOT_APPLY):
                continue
            if c["kind"] in ("count", "measure"):
                _check_range(file, line, cid, part, *c["range"])
            else:
                _check_states(
                    file, line, cid, part, [s for s in c["states"] if s not in c.get("retired", {})]
                )


def _check_range(file: str, line: int, what: str, value: Any, low: float, high: float) -> None:
    if not (isinstance(value, list) and len(value) == 2 and all(isinstance(v, int | float) for v in value)):
        raise FloraError(file, line, f"{what}: {value!r} is not [low, high]")
    if value[0] > value[1]:
        raise FloraError(file, line, f"{what}: range {value} is the wrong way round")
    if value[0] < low or value[1] > high:
        raise FloraError(file, line, f"{what}: {value} lies outside {low:g} to {high:g}")


def _check_states(file: str, line: int, cid: str, value: Any, states: list[str]) -> None:
    if not isinstance(value, dict | str) or not value:
        raise FloraError(file, line, f"{cid}: {value!r} names no state; one of {', '.join(states)}")
    for state, word in frequencies(value).items():
        if state not in states:
            raise FloraError(file, line, f"{cid}: unknown state {state!r}; one of {', '.join(states)}")
        if word not in FREQUENCY:
            raise FloraError(file, line, f"{cid}: {state} = {word!r}; one of {', '.join(FREQUENCY)}")


def line_of(text: str, needle: str, after: str = "") -> int:
    """The 1-based line on which `needle` first stands after `after`; 0 when it does not."""
    start = max(text.find(after), 0) if after else 0
    at = text.find(needle, start)
    return text.count("\n", 0, at) + 1 if at >= 0 else 0
