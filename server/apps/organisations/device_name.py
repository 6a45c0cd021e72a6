"""What a device calls itself, in two words: enough to know one's own again, no more."""

from __future__ import annotations

# The first that is found names it: browsers also name those they descend from.
BROWSERS = (
    ("Edg/", "Edge"),
    ("OPR/", "Opera"),
    ("Firefox/", "Firefox"),
    ("Chrome/", "Chrome"),
    ("Safari/", "Safari"),
)
SYSTEMS = (
    ("Android", "Android"),
    ("iPhone", "iPhone"),
    ("iPad", "iPad"),
    ("Windows", "Windows"),
    ("Mac OS X", "Mac"),
    ("CrOS", "Chromebook"),
    ("Linux", "Linux"),
)


def device_name(user_agent: str) -> str:
    """As "Firefox on Android"; "an unknown browser" where it does not say."""
    browser = next((name for mark, name in BROWSERS if mark in user_agent), "")
    system = next((name for mark, name in SYSTEMS if mark in user_agent), "")
    return " on ".join(part for part in (browser, system) if part) or "an unknown browser"
