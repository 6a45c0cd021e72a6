"""Which looks are one witness: repeats count once, further leaves of one specimen join the sample."""

from __future__ import annotations

from dataclasses import replace

from jubark_core.flora.model import Flora
from jubark_core.naming.absence import none_is_a_state
from jubark_core.naming.case import Case, Look


def pooled(case: Case, flora: Flora) -> list[Look]:
    """The looks that weigh, each one item of evidence, in the order of their first mention.

    The same reading by one observer on one specimen counts once; so do several absences of one organ on one
    date. Values of one character on one specimen are one sample, however many looks they came in. Readings of
    one state by several observers on one specimen are several readings of the same truth.
    """
    items: dict[tuple[object, ...], Look] = {}
    read = {(look.character, look.specimen) for look in case.looks if look.states and not look.skipped}
    for look in once(case, flora):
        if not look.applies and any(
            (other, look.specimen) in read for other in flora.characters[look.character]["requires"]
        ):
            continue  # 'does not apply' is a reading of what the character rests on; that was read itself
        key: tuple[object, ...] = ("alone", look.index)
        same_thing = (look.character, look.specimen, look.seen, look.stage, look.on, look.where, look.shoot)
        if look.values:
            key = ("sample", *same_thing)
        elif look.states and look.k is None and flora.characters[look.character]["kind"] == "one":
            key = ("state", *same_thing)
        first = items.get(key)
        if first is None:
            items[key] = look
        elif look.values:
            items[key] = replace(first, values=tuple(sorted(first.values + look.values)))
        else:
            items[key] = replace(first, again=(*first.again, (look.states[0], look.slip)))
    return list(items.values())


def once(case: Case, flora: Flora) -> list[Look]:
    """Looks that say something, without repeats."""
    kept: list[Look] = []
    seen: set[tuple[object, ...]] = set()
    for look in case.looks:
        if look.skipped or look.seen == "told":
            continue
        key: tuple[object, ...] = look.reading
        if look.none and not none_is_a_state(look, flora):
            key = ("absent organ", flora.characters[look.character]["organ"], look.on)
        if key not in seen:
            seen.add(key)
            kept.append(look)
    return kept
