"""Debian packages: what is missing is installed, as root or with sudo."""

from __future__ import annotations

import os
import shutil
import subprocess

from launcher.steps import StepFailed, run, say

PDF = ("libpango-1.0-0", "libpangoft2-1.0-0", "libharfbuzz-subset0")  # what reports are set with
DEMO = ("postgresql-15", "postgresql-15-postgis-3", "libgdal32", *PDF)
# libatomic1: the driver that speaks to the browser links to it
TEST = (*DEMO, "chromium-headless-shell", "libatomic1")
AS_ROOT = {"DEBIAN_FRONTEND": "noninteractive"}


def ensure_packages(wanted: tuple[str, ...]) -> None:
    """Install the packages that are not there. Quick when all are."""
    missing = [p for p in wanted if not _installed(p)]
    if not missing:
        return
    sudo = [] if os.geteuid() == 0 else ["sudo", "-E"]
    names = " ".join(missing)
    remedy = f"see the network and the package sources, or have an administrator run: apt-get install {names}"
    if sudo and shutil.which("sudo") is None:
        raise StepFailed(
            "Debian packages", f"{names} are missing, and this user has neither root nor sudo", remedy
        )
    say(f"Debian packages to install: {names}")
    run("package lists", [*sudo, "apt-get", "update", "-q"], remedy, env=AS_ROOT)
    run(
        "Debian packages",
        [*sudo, "apt-get", "install", "-y", "-q", "--no-install-recommends", *missing],
        remedy,
        env=AS_ROOT,
    )


def _installed(package: str) -> bool:
    asked = subprocess.run(["dpkg-query", "-W", "-f=${Status}", package], capture_output=True, text=True)
    return asked.stdout == "install ok installed"
