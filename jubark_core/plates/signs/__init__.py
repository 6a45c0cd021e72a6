"""A small drawing of every sign that can be drawn honestly: what is looked for, and where. 120 units."""

from __future__ import annotations

from jubark_core.plates.pen import Page
from jubark_core.plates.signs import around, on_bark, on_crowns, on_leaves, on_needles, on_twigs
from jubark_core.signs.load import signs

DRAWN = {
    **on_bark.DRAWN,
    **on_twigs.DRAWN,
    **on_leaves.DRAWN,
    **on_needles.DRAWN,
    **on_crowns.DRAWN,
    **around.DRAWN,
}


def sign_drawings() -> dict[str, str]:
    """Sign -> SVG."""
    found = {}
    for sign, word in signs().items():
        if sign in DRAWN:
            page = Page(120.0, 120.0, cut=True)
            DRAWN[sign](page)
            found[sign] = page.svg(word.label, word.how)
    return found
