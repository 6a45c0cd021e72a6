"""Six years of visits to each plant: growth with crew error, ashes that die, beeches that fall ill, tags that
get lost.
"""

from __future__ import annotations

import datetime
import math
import uuid
from random import Random
from typing import Any

from apps.demo import ailing, inspected, judged
from apps.demo.layout import SitePlan, Stand, to_degrees
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.flora.views import days_of, shows
from jubark_core.naming.engine import name_plant
from jubark_core.season.days import day_of_year
from jubark_core.season.place import Place
from jubark_core.season.showing import visible
from jubark_core.units import unit_of

NAMESPACE = uuid.UUID("5f0c1a54-6c1e-5b0e-9d7f-3b2a8f1d7c10")
# years before the demonstration's date and month, and the chance that a plant is visited on that round
ROUNDS = ((6, 10, 0.97), (4, 6, 0.6), (2, 7, 0.75), (0, 10, 0.7))
ORGANISATION = ("Ilka", "Bram", "Odile")
ASH_DECLINE = ("good", "fair", "poor", "dead")
LOOKED_AT = (
    "leaf.arrangement",
    "leaf.type",
    "bark.texture",
    "leaf.margin",
    "leaf.leaflets",
    "leaf.side_veins",
    "bud.colour",
    "twig.colour",
    "leaf.underside",
    "leaf.lobe_count",
    "bud.form",
    "twig.leaf_scar_top",
    "fruit.kind",
    "needle.per_bundle",
    "leaf.shape",
)


class PlantLife:
    """Makes the records of one plant. Everything follows from the seed and the plant's number."""

    def __init__(
        self, site: SitePlan, stand: Stand, number: int, tag: str, today: datetime.date, flora: Flora
    ) -> None:
        self.site, self.stand, self.number, self.tag, self.today, self.flora = (
            site,
            stand,
            number,
            tag,
            today,
            flora,
        )
        self.rng = Random(f"{site.name} {number}")
        self.id = self._id("plant")
        self.growth_cm = self.rng.uniform(0.2, 0.8) * (1.6 if stand.stage == "young" else 1)
        self.entries_made = 0

    def _id(self, what: str) -> str:
        return str(uuid.uuid5(NAMESPACE, f"{self.site.name} {self.number} {what}"))

    def plant(self, block_id: str) -> dict[str, Any]:
        """The plant item."""
        s = self.stand
        first = self._moment(self._dates()[0])
        item: dict[str, Any] = {"id": self.id, "block": block_id, "origin": s.origin, "recorded_at": first}
        if s.outline:
            corners = [list(to_degrees(self.site, *c)) for c in (*s.outline, s.outline[0])]
            return {
                **item,
                "form": "group",
                "outline": {"type": "Polygon", "coordinates": [corners]},
                "how_taken": "tapped",
            }
        lon, lat = to_degrees(self.site, s.east, s.north)
        item |= {
            "lon": round(lon, 7),
            "lat": round(lat, 7),
            "how_taken": "satellite" if s.origin == "wild" else "surveyed",
        }
        item["accuracy_m"] = round(self.rng.uniform(2, 9), 1) if s.origin == "wild" else 0.3
        if s.row:
            item |= {"row_name": s.row, "row_position": s.position}
        return item

    def visits(self) -> list[dict[str, Any]]:
        """The visit items, oldest first."""
        made = [self._visit(i, date) for i, date in enumerate(self._dates())]
        if self.stand.story == "wrong name" and made:
            self._correct_name(made[0])
        return made

    def _dates(self) -> list[datetime.date]:
        rng = Random(f"dates {self.site.name} {self.number}")
        chosen = []
        for years, month, chance in ROUNDS:
            day = datetime.date(self.today.year - years, month, 1) + datetime.timedelta(
                days=rng.randrange(0, 26)
            )
            if rng.random() < chance or years == 6 or self.stand.story.startswith("ash"):
                chosen.append(day)
        past = [d for d in chosen if d <= self.today]
        return past or [self.today - datetime.timedelta(days=400)]

    def _moment(self, date: datetime.date) -> str:
        minute = 480 + self.number * 7 % 420
        return datetime.datetime.combine(
            date, datetime.time(minute // 60, minute % 60), datetime.UTC
        ).isoformat()

    def _entry(self, kind: str, body: dict[str, Any]) -> dict[str, Any]:
        self.entries_made += 1
        return {"id": self._id(f"entry {self.entries_made}"), "kind": kind, "body": body}

    def _visit(self, i: int, date: datetime.date) -> dict[str, Any]:
        s = self.stand
        years = (date - self._dates()[0]).days / 365.25
        dead = self._condition(i) == "dead"
        entries = self._tag_entries(i)
        if i == 0:
            entries += self._naming(date)
        if not s.outline:
            entries += self._sizes(years, dead)
        bare = date.month not in (5, 6, 7, 8, 9)
        entries.append(
            self._entry("condition", judged.condition(self.number, self._condition(i), bare, s.stage))
        )
        if i == len(self._dates()) - 1 and not s.outline:
            grown = s.dbh_cm >= judged.GROWN_CM
            sheet = judged.risk(self.number, date) if grown else None
            besides = judged.in_its_file(self.number) if grown else ()
            found = (("defect", judged.defect(self.number)), ("risk", sheet), *besides)
            entries += [self._entry(kind, body) for kind, body in found if body]
        entries += self._inspected(date, any(map(_speaks_against, entries)))
        if dead and s.story == "ash":
            entries.append(self._entry("life", {"state": "standing_dead"}))
        entries += self._ailing(i, date)
        if note := self._note(i):
            entries.append(self._entry("note", {"text": note}))
        return {
            "id": self._id(f"visit {i}"),
            "plant": self.id,
            "mode": "field",
            "local_date": date.isoformat(),
            "observed_at": self._moment(date),
            "observer": ORGANISATION[(self.number + i) % len(ORGANISATION)],
            "stage": s.stage,
            "setting": self._setting(),
            "origin": s.origin,
            "entries": entries,
        }

    def _inspected(self, date: datetime.date, faulty: bool) -> list[dict[str, Any]]:
        if self.today.year - date.year > inspected.SINCE_YEARS:
            return []
        body = inspected.inspection(self.stand, self.number, not faulty)
        return [self._entry("inspection", body)] if body else []

    def _setting(self) -> str:
        return self.stand.setting or next(b.setting for b in self.site.blocks if b.name == self.stand.block)

    def _tag_entries(self, i: int) -> list[dict[str, Any]]:
        if i == 0:
            return [self._entry("tag", {"number": self.tag, "material": "aluminium"})]
        if i == 2 and self.number % 20 == 7:  # one tag in twenty is lost
            return [self._entry("tag", {"number": self.tag, "state": "lost"})]
        return []

    def _sizes(self, years: float, dead: bool) -> list[dict[str, Any]]:
        grown = self.stand.dbh_cm + self.growth_cm * (0.4 if dead else 1) * years
        each = [max(0.6, grown + self.rng.gauss(0, 0.25))]
        if self.stand.stems > 1:
            each = [
                max(0.6, grown / math.sqrt(self.stand.stems) * self.rng.uniform(0.8, 1.2))
                for _ in range(self.stand.stems)
            ]
        typed = [self._typed(cm, "cm") for cm in each]
        read = [value for value, _ in typed]
        sizes = [
            self._entry(
                "measurement",
                {
                    "quantity": "dbh_cm",
                    "raw": {"diameters_cm": read} if len(read) > 1 else {"value": read[0]},
                    "unit_entered": unit_of("cm", self.site.units).label,
                    "as_entered": "; ".join(text for _, text in typed),
                    "method": "taped",
                    "at_height_m": float(self.site.breast_height_m),
                    "combine": self.site.several_stems,
                },
            )
        ]
        top = self._height_of(grown)
        if self.rng.random() < 0.25 and top > 6:
            distance, said = self._typed(top * self.rng.uniform(1.1, 1.5), "m")
            base = -math.degrees(math.atan(1.6 / distance))
            angle = math.degrees(math.atan((top - 1.6) / distance))
            raw_height: dict[str, Any] = {
                "angles": {
                    "distance_m": distance,
                    "top": round(angle * 2) / 2,
                    "base": round(base * 2) / 2,
                }
            }
            sizes.append(
                self._entry(
                    "measurement",
                    {
                        "quantity": "height_m",
                        "raw": raw_height,
                        "unit_entered": unit_of("m", self.site.units).label,
                        "as_entered": f"distance {said}",
                        "method": "instrument",
                    },
                )
            )
        else:
            by_eye, said = self._typed(top + (self.rng.gauss(0, 0.6) if top > 3 else 0.0), "m")
            sizes.append(
                self._entry(
                    "measurement",
                    {
                        "quantity": "height_m",
                        "raw": {"value": by_eye},
                        "unit_entered": unit_of("m", self.site.units).label,
                        "as_entered": said,
                        "method": "estimated",
                    },
                )
            )
        return sizes

    def _typed(self, value: float, si: str) -> tuple[float, str]:
        """The figure as this site's crew would type it: in the stored unit, and in words."""
        unit = unit_of(si, self.site.units)
        read = round(value / unit.per, unit.places)
        return read * unit.per, f"{read:g} {unit.label}"

    def _height_of(self, dbh_cm: float) -> float:
        """A saturating height for the diameter; the shape is common practice, the numbers are invented."""
        tallest = (self.flora.taxa.get(self.stand.taxon, {}).get("height_m") or [4, 14])[1]
        return float(1.3 + (tallest - 1.3) * (1 - math.exp(-0.035 * dbh_cm)))

    def _condition(self, i: int) -> str:
        if self.stand.story == "ash":
            return ASH_DECLINE[min(i, 3)]
        if self.stand.story == "ash treated":
            return ("good", "good", "fair", "fair")[min(i, 3)]
        if self.stand.story == "beech" and i >= 2:
            return "fair"
        return Random(f"condition {self.number}").choices(("good", "fair", "poor"), (72, 24, 4))[0]

    def _ailing(self, i: int, date: datetime.date) -> list[dict[str, Any]]:
        """Signs of the visit, and what they were judged to be."""
        signs = ailing.signs_of(self.stand, self.number, i, date, self.today)
        judged_as = ailing.diagnosis_of(self.site, self.stand, self.number, date, signs, self.flora)
        found = [self._entry("sign", sign) for sign in signs]
        return [*found, self._entry("diagnosis", judged_as)] if judged_as else found

    def _note(self, i: int) -> str:
        if self.stand.story == "ash treated" and i == 1:
            return "Trunk injected in June; treat again in the third year."
        if self.stand.story == "blue ash" and i == 0:
            return "Twigs square, faintly winged; sound among dying ashes."
        if self.stand.story == "group" and i == 0:
            return "Thicket recorded as one group; edges paced."
        return ""

    def _naming(self, date: datetime.date) -> list[dict[str, Any]]:
        """Looks a person could make that day, and the name: known to the crew, or what the engine
        supports.
        """
        if not self.stand.taxon:
            return [self._entry("determination", {"entered": self.stand.name})]
        if self.number % 4 or self.stand.outline or self.stand.story == "blue ash":
            node = self.flora.taxa[self.stand.taxon]
            return [
                self._entry(
                    "determination",
                    {
                        "entered": node["name"],
                        "taxon": self.stand.taxon,
                        "reason": "known to the crew",
                    },
                )
            ]
        observations = self._observations(date)
        return [*observations, self._named_by_evidence(date, observations)]

    def _observations(self, date: datetime.date) -> list[dict[str, Any]]:
        taxon = self.flora.taxa[self.stand.taxon]
        days = days_of(
            self.flora, self.stand.taxon, Place(self.site.lat, self.site.lon, self.site.elevation_m)
        )
        observations: list[dict[str, Any]] = []
        for cid in LOOKED_AT:
            c = self.flora.characters[cid]
            seen = max(
                visible(k, days, day_of_year(date), self.flora.evergreen[self.stand.taxon])
                for k in c["visible"]
            )
            if (
                cid not in taxon["states"]
                or seen < 0.7
                or c["wounds"]
                or self.stand.stage not in c["stages"]
                or len(observations) >= 6
            ):
                continue
            if self.rng.random() < 0.75:
                observations.append(
                    self._entry(
                        "observation",
                        {
                            "character": cid,
                            "certainty": self.rng.choice(("sure", "likely", "likely")),
                            **self._seen(cid, c),
                        },
                    )
                )
        return observations

    def _seen(self, cid: str, c: dict[str, Any]) -> dict[str, Any]:
        if c["kind"] in ("count", "measure"):
            mean, sd = shows(self.flora, self.stand.stage).spread(self.stand.taxon, cid) or (1.0, 0.3)
            drawn = [self.rng.gauss(mean, sd) for _ in range(4)]
            low, high = c["range"]
            return {
                "values": [
                    min(
                        high,
                        max(
                            low,
                            round(v)
                            if c["kind"] == "count"
                            else round(math.exp(v) if c["scale"] == "log" else v, 1),
                        ),
                    )
                    for v in drawn
                ]
            }
        weights = shows(self.flora, self.stand.stage).weights(self.stand.taxon, cid, "summer") or {}
        state = self.rng.choices(list(weights), list(weights.values()))[0]
        return {"states": [state]}

    def _named_by_evidence(self, date: datetime.date, observations: list[dict[str, Any]]) -> dict[str, Any]:
        case = {
            "on": date.isoformat(),
            "lat": self.site.lat,
            "lon": self.site.lon,
            "elevation_m": self.site.elevation_m,
            "areas": list(self.site.areas),
            "setting": self._setting(),
            "origin": self.stand.origin,
            "stage": self.stand.stage,
            "observations": [_for_engine(entry["body"], self.flora) for entry in observations],
        }
        try:
            answer = name_plant(case, self.flora)
        except InputError as error:
            raise AssertionError(f"the generator made a bad case: {error}") from error
        name = answer["supported"]
        if name is None:
            genus = self.flora.genus_of[self.stand.taxon] or ""
            return self._entry(
                "determination",
                {
                    "entered": f"{self.flora.taxa[genus]['name']} sp.",
                    "taxon": genus,
                    "reason": "name by the organisation; the observations alone do not settle it",
                    "observations": [e["id"] for e in observations],
                },
            )
        return self._entry(
            "determination",
            {
                "entered": name["name"],
                "taxon": name["taxon"],
                "probability": round(name["probability"], 4),
                "observations": [e["id"] for e in observations],
                "not_separated_from": [r["taxon"] for r in answer["not_yet_told_from"]][:5],
                "flora": answer["flora"],
                "engine": answer["engine"],
            },
        )

    def _correct_name(self, visit: dict[str, Any]) -> None:
        """The first name was a slip; a correction names it, a year later."""
        right = next(e for e in visit["entries"] if e["kind"] == "determination")
        wrong = {
            **right,
            "body": {"entered": "Acer rubrum", "taxon": "acer-rubrum", "reason": "known to the crew"},
        }
        later = datetime.datetime.fromisoformat(visit["observed_at"]) + datetime.timedelta(days=400)
        correction = {
            "id": self._id("correction"),
            "kind": "determination",
            "body": right["body"],
            "replaces": right["id"],
            "reason": "Wings of the fruit nearly in line; milky sap seen on a fallen leaf.",
            "recorded_at": later.isoformat(),
            "observer": "Ilka",
        }
        visit["entries"] = [wrong if e is right else e for e in visit["entries"]] + [correction]


def _for_engine(body: dict[str, Any], flora: Flora) -> dict[str, Any]:
    one = flora.characters[body["character"]]["kind"] == "one"
    return {
        **{k: v for k, v in body.items() if k != "states"},
        **(
            {"state": body["states"][0]}
            if one and "states" in body
            else {"states": body["states"]}
            if "states" in body
            else {}
        ),
    }


def _speaks_against(entry: dict[str, Any]) -> bool:
    """Whether it leaves no room for 'no defect found'."""
    hidden = entry["body"].get("base_visible") == "not_visible"
    return entry["kind"] in ("defect", "risk") or hidden
