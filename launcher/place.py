"""Where an installation keeps what outlives a run, and the environment its processes get."""

from __future__ import annotations

import contextlib
import os
import secrets
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from launcher import ROOT, cluster
from launcher.cluster import APPLICATION
from launcher.packages import DEMO, ensure_packages
from launcher.python_env import PYTHON, ensure_python
from launcher.serving import MANAGE, MIGRATE, SERVER
from launcher.steps import run
from launcher.web_build import ensure_build

LOCAL, PRODUCTION = "config.settings.local", "config.settings.production"


@dataclass(frozen=True)
class Place:
    """home: photographs, secret key, taxa of its own. cluster: its database; none where $JUBARK_DB_HOST names
    one elsewhere.
    """

    home: Path
    cluster: cluster.Cluster | None

    @property
    def photographs(self) -> Path:
        """Readable for the application's account alone."""
        return self.home / "photographs"

    @property
    def flora(self) -> Path:
        """Taxa and notes of this installation's own."""
        return self.home / "flora"

    def environment(self, role: str = APPLICATION) -> dict[str, str]:
        """Settings of its processes, which are of a role in the database; the secret key is made once and
        kept outside the checkout.
        """
        self.photographs.mkdir(parents=True, exist_ok=True)
        self.photographs.chmod(0o700)
        key = self.home / "secret-key"
        if not key.exists():
            key.touch(mode=0o600)
            key.write_text(secrets.token_urlsafe(48))
        hosts = [h for h in os.environ.get("JUBARK_HOSTS", "").split(",") if h]
        return {
            **(self.cluster.environment(role) if self.cluster else _elsewhere(role)),
            "DJANGO_SETTINGS_MODULE": PRODUCTION if os.environ.get("JUBARK_ORIGINS") else LOCAL,
            "PYTHONPATH": f"{ROOT}{os.pathsep}{SERVER}",
            "JUBARK_SECRET_KEY": os.environ.get("JUBARK_SECRET_KEY") or key.read_text().strip(),
            "JUBARK_MEDIA": str(self.photographs),
            "JUBARK_FLORA": str(self.flora),
            # the launcher itself asks on loopback
            "JUBARK_HOSTS": ",".join([*hosts, "127.0.0.1", "localhost"]),
        }


def _elsewhere(role: str) -> dict[str, str]:
    """What the environment does not say of a database elsewhere: the migrator, where it is named."""
    name = os.environ.get("JUBARK_DB_MIGRATOR", "")
    if role == cluster.APPLICATION or not name:
        return {}
    return {
        "JUBARK_DB_USER": name,
        "JUBARK_DB_PASSWORD": os.environ.get("JUBARK_DB_MIGRATOR_PASSWORD", ""),
    }


def demo_place() -> Place:
    """The demonstration's."""
    return Place(cluster.data_home(), cluster.demo_cluster())


def own_place() -> Place:
    """That of an installation of one's own."""
    home = cluster.data_home() / "own"
    elsewhere = os.environ.get("JUBARK_DB_HOST")
    return Place(home, None if elsewhere else cluster.cluster_in(home / "database"))


def build(arguments: list[str]) -> int:
    """./jubark build: what an image is made of. Packages of Debian are the image's own."""
    ensure_python("app")
    ensure_build()
    return 0


@contextlib.contextmanager
def prepared(place: Place) -> Iterator[dict[str, str]]:
    """Everything set up but the tables, the database running; the environment of its processes, which are of
    the application's role once there are roles (`migrate`).
    """
    ensure_packages(DEMO)
    ensure_python("app")
    ensure_build()
    with database_of(place):
        env = place.environment()
        if place.flora.exists():
            check = [str(PYTHON), "-m", "jubark_core", "flora", "check"]
            run("taxa and notes of your own", check, "mend the file named", env=env, cwd=ROOT)
        yield env


@contextlib.contextmanager
def database_of(place: Place) -> Iterator[None]:
    """The database of a place, running while it is needed."""
    if place.cluster is None:
        yield
        return
    with cluster.in_use(place.cluster):
        cluster.ensure_database(place.cluster)
        yield


def migrate(place: Place, remedy: str) -> None:
    """The tables of this version, made by the migrator; the application may read and write their rows."""
    if place.cluster is not None:
        cluster.ensure_roles(place.cluster)
    run("migrations", [*MANAGE, *MIGRATE], remedy, env=place.environment(cluster.MIGRATOR))
    if place.cluster is not None:
        cluster.ensure_roles(place.cluster)
