"""The flora: what ships is sound, and what breaks a rule is refused with file and line."""

from __future__ import annotations

import ast
import json
import os
import shutil
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

import jsonschema

from jubark_core.errors import FloraError
from jubark_core.flora.load import FLORA_DIR, compile_sources, local_notes, shipped_flora, source_files
from jubark_core.flora.model import Flora, slug
from jubark_core.flora.names import find_names
from jubark_core.flora.review import faults
from jubark_core.flora.toml_writer import as_toml
from jubark_core.flora.views import shows
from jubark_core.tests.profiles import slow

ROOT = Path(__file__).resolve().parent.parent.parent


class Shipped(unittest.TestCase):
    def test_every_taxon_is_scored_in_at_least_35_characters_with_phenology(self) -> None:
        flora = shipped_flora()
        self.assertGreaterEqual(len(flora.leaves), 150)
        for taxon in flora.leaves:
            self.assertGreaterEqual(len(flora.taxa[taxon]["states"]), 35, taxon)
            without_winter = (
                flora.taxa[taxon].get("rhythm") == "none"
            )  # bamboos hardly flower, eucalypts know no bud burst
            expected = {"bud_burst", "leaf_out", "flower", "ripe"} if not without_winter else set()
            phenology = flora.taxa[taxon]["phenology"]
            self.assertLessEqual(expected, set(phenology), taxon)
            # an evergreen sheds leaf by leaf: one date of leaf fall would be made up
            self.assertEqual("fall" in phenology, not flora.evergreen[taxon] and not without_winter, taxon)

    def test_every_character_says_how_to_look_and_the_usual_mistake(self) -> None:
        for cid, c in shipped_flora().characters.items():
            for key in ("label", "term", "how", "mistake", "visible", "reach", "tools", "effort_s"):
                self.assertTrue(c.get(key), f"{cid} lacks {key}")

    def test_look_alikes_point_both_ways(self) -> None:
        taxa = shipped_flora().taxa
        for taxon in shipped_flora().leaves:
            for pair in taxa[taxon].get("look_alikes", ()):
                self.assertIn(
                    taxon,
                    [back["taxon"] for back in taxa[pair["taxon"]]["look_alikes"]],
                    f"{taxon} ~ {pair['taxon']}",
                )

    def test_names_are_found_by_synonym_common_name_and_slip(self) -> None:
        flora = shipped_flora()
        for words, taxon in (
            ("Negundo aceroides", "acer-negundo"),
            ("shagbark", "carya-ovata"),
            ("Fraxinus pensylvanica", "fraxinus-pennsylvanica"),
            ("quercus rub", "quercus-rubra"),
        ):
            self.assertEqual(find_names(words, flora)[0]["taxon"], taxon)
        self.assertEqual(slug("Forsythia × intermedia"), "forsythia-x-intermedia")

    def test_what_flora_check_proves_holds(self) -> None:
        self.assertEqual(faults(shipped_flora()), [])

    def test_facts_often_written_wrong(self) -> None:
        """Common practice and the standard floras named in each file; from memory."""
        flora, view = shipped_flora(), shows(shipped_flora(), "mature")

        def usual(taxon: str, character: str) -> set[str]:
            weights = view.weights(taxon, character, "summer") or {}
            return {s for s, w in weights.items() if w >= 0.35}

        for taxon in (t for t in flora.leaves if flora.genus_of[t] == "carya"):
            self.assertEqual(
                usual(taxon, "leaf.arrangement"), {"alternate"}, taxon
            )  # their leaflets are opposite
        for taxon in ("celtis-occidentalis", "celtis-laevigata", "ulmus-americana", "ulmus-rubra"):
            self.assertIn("unequal", usual(taxon, "leaf.base"), taxon)
        self.assertEqual(usual("juglans-cinerea", "fruit.husk"), {"sticky"})
        self.assertEqual(flora.family_of["celtis-occidentalis"], "cannabaceae")
        self.assertNotIn("wet_flat", flora.taxa["rhamnus-cathartica"]["habitat"])
        self.assertIn("wet_flat", flora.taxa["frangula-alnus"]["habitat"])
        self.assertIn("no", usual("callitropsis-nootkatensis", "spray.flat"))  # only weakly flat
        self.assertEqual(
            usual("quercus-agrifolia", "fruit.young_on_twig"), {"no"}
        )  # a red oak whose acorns ripen in one year
        for section, members in (
            ("quercus-sect-lobatae", ("palustris", "rubra", "coccinea", "velutina", "phellos", "agrifolia")),
            (
                "quercus-sect-quercus",
                (
                    "alba",
                    "macrocarpa",
                    "bicolor",
                    "robur",
                    "petraea",
                    "durata",
                    "douglasii",
                    "lobata",
                    "berberidifolia",
                ),
            ),
        ):
            self.assertLessEqual({f"quercus-{m}" for m in members}, set(flora.below[section]))
        for group, members in (
            ("symphyomyrtus", ("resinifera", "robusta", "saligna")),
            ("eucalyptus", ("eugenioides", "globoidea", "pilularis")),
        ):
            self.assertEqual(
                {f"eucalyptus-{m}" for m in members}, set(flora.below[f"eucalyptus-subg-{group}"])
            )
        for old, now in (
            ("Mahonia × media", "berberis-x-hortensis"),
            ("Cornus stolonifera", "cornus-sericea"),
            ("Eucalyptus maculata", "corymbia-maculata"),
            ("Chamaecyparis nootkatensis", "callitropsis-nootkatensis"),
            ("Platanus × acerifolia", "platanus-x-hispanica"),
            ("Sambucus nigra subsp. canadensis", "sambucus-canadensis"),
        ):
            self.assertEqual(flora.resolve[slug(old)], now)
        for taxon in (
            "amelanchier-laevis",
            "crataegus-crus-galli",
            "rubus-allegheniensis",
            "malus-domestica",
            "salix-nigra",
        ):
            self.assertEqual(flora.taxa[taxon]["stop_at"]["rank"], "genus", taxon)
        # it crosses to set seed, and is named routinely in Europe (Stace, New Flora of the British Isles)
        self.assertNotIn("stop_at", flora.taxa["crataegus-monogyna"])

    def test_the_compiled_flora_keeps_its_published_schema(self) -> None:
        schema = json.loads((FLORA_DIR.parents[1] / "docs" / "compiled-flora.schema.json").read_text())
        jsonschema.validate(compile_sources(), schema)
        with self.assertRaises(jsonschema.ValidationError):
            jsonschema.validate(
                {
                    "version": "x",
                    "characters": {},
                    "taxa": {"a": {"name": "A", "rank": "kind", "parent": None}},
                },
                schema,
            )

    @slow
    def test_a_taxon_written_as_toml_reads_back_the_same(self) -> None:
        flora = shipped_flora()
        for taxon in (
            "fagus-sylvatica",
            "gleditsia-triacanthos",
            "eucalyptus-pilularis",
            "crataegus-monogyna",
            "tsuga-heterophylla",
        ):
            with self.subTest(taxon), tempfile.TemporaryDirectory() as folder:
                copy = Path(folder) / "flora"
                shutil.copytree(FLORA_DIR, copy, ignore=shutil.ignore_patterns("__pycache__"))
                genus = copy / "taxa" / f"{taxon.split('-')[0]}.toml"
                before = genus.read_text()
                start = before.rindex("[[taxon]]", 0, before.index(f'id = "{taxon}"'))
                following = before.find("\n[[taxon]]\n", start + 5)
                own = as_toml(flora, taxon).split("\n", 3)[3]
                genus.write_text(before[:start] + own + (before[following:] if following >= 0 else ""))
                again = Flora(compile_sources(copy)).taxa[taxon]
                for key in ("states", "phenology", "cultivars", "native", "commonness"):
                    self.assertEqual(again[key], flora.taxa[taxon][key], key)

    def test_taxa_and_notes_of_one_s_own_stand_beside_the_shipped(self) -> None:
        with tempfile.TemporaryDirectory() as folder, patch.dict(os.environ, {"JUBARK_FLORA": folder}):
            (Path(folder) / "taxa").mkdir()
            own = (
                as_toml(shipped_flora(), "fagus-sylvatica")
                .replace("fagus-sylvatica", "fagus-orientalis")
                .replace("Fagus sylvatica", "Fagus orientalis")
            )
            file = Path(folder) / "taxa" / "fagus.toml"
            file.write_text(own)
            flora = Flora(compile_sources())
            self.assertIn("fagus-orientalis", flora.below["fagus"])
            self.assertIn("fagus-sylvatica", flora.below["fagus"])
            (Path(folder) / "notes.toml").write_text('fagus-orientalis = "one by the lodge"\n')
            self.assertEqual(local_notes(flora.taxa), {"fagus-orientalis": "one by the lodge"})
            (Path(folder) / "notes.toml").write_text('fagus-nowhere = "?"\n')
            with self.assertRaises(FloraError):
                local_notes(flora.taxa)
            file.write_text(own.replace('sexes = "both"', 'sexes = "none"'))
            with self.assertRaises(FloraError) as caught:
                compile_sources()
            self.assertEqual(caught.exception.file, "own/fagus.toml")


class Refused(unittest.TestCase):
    """One edit of a copied genus file each; the message must name the file and the line that was edited."""

    EDITS = (
        ('habit.form = "tree"', 'habit.shape = "tree"', "unknown character"),
        ('habit.form = "tree"', 'habit.form = "treeish"', "unknown state"),
        ("leaf.side_veins = [9, 14]", "leaf.side_veins = [14, 9]", "wrong way round"),
        ("leaf.length_cm = [6.5, 13]", "leaf.length_cm = [6.5, 1300]", "lies outside"),
        ('sexes = "both"', 'sexes = "some"', "sexes"),
        ('"NSC", "PEI"]', '"NSC", "XXX"]', "unknown area"),
        ('bud_burst = "04-28"', 'bud_burst = "04-31"', "MM-DD"),
        ("longevity_y = [200, 350]", "longevity = [200, 350]", "unknown key"),
        ('from = "memory"', 'from = "hearsay"', "or a work of `against`"),
        ("version = 2", "version = 'two'", "int is wanted"),
        # the genus would be certain of what one of its species does not hold to
        ('twig.spur_shoots = "yes no"', 'habit.suckers = "no"', "not by fagus-grandifolia"),
        ('leaf.lobes = "none"', 'leaf.margin = "lobed"', "unknown state"),
    )

    def test_each_broken_rule_names_file_and_line(self) -> None:
        original = (FLORA_DIR / "taxa" / "fagus.toml").read_text()
        for old, new, reason in self.EDITS:
            with self.subTest(new), tempfile.TemporaryDirectory() as folder:
                copy = Path(folder) / "flora"
                shutil.copytree(FLORA_DIR, copy, ignore=shutil.ignore_patterns("__pycache__"))
                self.assertIn(old, original)
                edited = original.replace(old, new, 1)
                (copy / "taxa" / "fagus.toml").write_text(edited)
                with self.assertRaises(FloraError) as caught:
                    compile_sources(copy)
                self.assertEqual(caught.exception.file, "fagus.toml")
                line = edited.splitlines()[caught.exception.line - 1]
                self.assertIn(new.split(" = ")[0].strip('"[ ,').split('"')[-1], line)
                self.assertIn(reason, str(caught.exception))


class Cache(unittest.TestCase):
    def imported(self, module: str, found: dict[str, Path]) -> dict[str, Path]:
        """Module -> file of everything of ours that a module imports, however far down."""
        file = ROOT / (module.replace(".", "/") + ".py")
        if module in found or not file.exists():
            return found
        found[module] = file
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("jubark_core"):
                for name in (node.module, *(f"{node.module}.{alias.name}" for alias in node.names)):
                    self.imported(name, found)
        return found

    def test_the_key_covers_everything_the_flora_is_made_with(self) -> None:
        """A change of any module that takes part must not serve a flora compiled before it."""
        made_with = self.imported("jubark_core.flora.load", {})
        self.assertLessEqual({"jubark_core.flora.compile", "jubark_core.season.calendars"}, set(made_with))
        self.assertEqual([m for m, file in made_with.items() if file not in source_files()], [])
        self.assertLessEqual(set((FLORA_DIR / "taxa").glob("*.toml")), set(source_files()))
