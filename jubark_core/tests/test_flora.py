"""The flora: what ships is sound, and what breaks a rule is refused with file and line."""

from __future__ import annotations

import shutil
import tempfile
import unittest
from pathlib import Path

from jubark_core.errors import FloraError
from jubark_core.flora.load import FLORA_DIR, compile_sources, shipped_flora
from jubark_core.flora.model import slug
from jubark_core.flora.names import find_names


class Shipped(unittest.TestCase):
    def test_every_taxon_is_scored_in_at_least_35_characters_with_phenology(self) -> None:
        flora = shipped_flora()
        self.assertEqual(len(flora.leaves), 24)
        for taxon in flora.leaves:
            self.assertGreaterEqual(len(flora.taxa[taxon]["states"]), 35, taxon)
            self.assertLessEqual({"bud_burst", "leaf_out", "flower", "ripe", "fall"}, set(flora.taxa[taxon]["phenology"]))

    def test_every_character_says_how_to_look_and_the_usual_mistake(self) -> None:
        for cid, c in shipped_flora().characters.items():
            for key in ("label", "term", "how", "mistake", "visible", "reach", "tools", "effort_s"):
                self.assertTrue(c.get(key), f"{cid} lacks {key}")

    def test_look_alikes_point_both_ways(self) -> None:
        taxa = shipped_flora().taxa
        for taxon in shipped_flora().leaves:
            for pair in taxa[taxon]["look_alikes"]:
                self.assertIn(taxon, [back["taxon"] for back in taxa[pair["taxon"]]["look_alikes"]], f"{taxon} ~ {pair['taxon']}")

    def test_names_are_found_by_synonym_common_name_and_slip(self) -> None:
        flora = shipped_flora()
        for words, taxon in (
            ("Negundo aceroides", "acer-negundo"),
            ("shagbark", "carya-ovata"),
            ("Fraxinus pensylvanica", "fraxinus-pennsylvanica"),
            ("quercus r", "quercus-rubra"),
        ):
            self.assertEqual(find_names(words, flora)[0]["taxon"], taxon)
        self.assertEqual(slug("Forsythia × intermedia"), "forsythia-x-intermedia")


class Refused(unittest.TestCase):
    """One edit of a copied genus file each; the message must name the file and the line that was edited."""

    EDITS = (
        ('habit.form = "tree"', 'habit.shape = "tree"', "unknown character"),
        ('habit.form = "tree"', 'habit.form = "treeish"', "unknown state"),
        ('leaf.side_veins = [9, 14]', 'leaf.side_veins = [14, 9]', "wrong way round"),
        ('leaf.length_cm = [6.5, 13]', 'leaf.length_cm = [6.5, 1300]', "lies outside"),
        ('sexes = "both"', 'sexes = "some"', "sexes"),
        ('"NSC", "PEI"]', '"NSC", "XXX"]', "unknown area"),
        ('bud_burst = "04-28"', 'bud_burst = "04-31"', "MM-DD"),
        ('longevity_y = [200, 350]', 'longevity = [200, 350]', "unknown key"),
    )  # fmt: skip

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
