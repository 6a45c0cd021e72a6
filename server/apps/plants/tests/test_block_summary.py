"""A block in four figures: area by the geodesic polygon, basal area by hand."""

import math

from django.test import TestCase

from apps.plants.block_summary import block_summary
from apps.plants.tests.factories import a_plant, dbh, entry, signed_in, small_site


class BlockSummary(TestCase):
    def setUp(self) -> None:
        self.at = small_site()

    def test_an_empty_block_has_its_area_and_nothing_on_it(self) -> None:
        found = block_summary(self.at.viewer, self.at.block)
        self.assertEqual((found["standing"], found["measured"], found["basal_area_m2_per_ha"]), (0, 0, 0.0))
        west, south, east, north = self.at.block.boundary.extent
        # the series for WGS 84, from memory: 111132.95 - 559.82 cos 2φ + 1.175 cos 4φ m a degree of latitude,
        # 111412.88 cos φ - 93.5 cos 3φ of longitude; at 40.5° 111,044 and 84,768
        hectares = (north - south) * 111_044 * (east - west) * 84_768 / 10_000
        self.assertAlmostEqual(found["area_ha"] / hectares, 1.0, places=2)

    def test_basal_area_is_that_of_the_standing_trees_with_a_diameter(self) -> None:
        a_plant(self.at, dbh(20.0))
        a_plant(self.at, dbh(40.0))
        a_plant(self.at, dbh(80.0), entry("life", state="removed"))
        a_plant(self.at, entry("note", text="not measured"))
        found = block_summary(self.at.viewer, self.at.block)
        self.assertEqual((found["standing"], found["measured"]), (3, 2))
        # π/4 × (0.20² + 0.40²) = 0.1570796 m²
        self.assertAlmostEqual(found["basal_area_m2_per_ha"] * found["area_ha"], 0.1570796, places=6)
        self.assertAlmostEqual(math.pi / 4 * (0.2**2 + 0.4**2), 0.1570796, places=6)

    def test_over_http_and_not_for_another_organisation(self) -> None:
        a_plant(self.at, dbh(20.0))
        address = f"/api/blocks/{self.at.block.id}/summary/"
        self.assertEqual(signed_in(self.at.viewer).get(address).json()["measured"], 1)
        self.assertEqual(signed_in(small_site("Other").viewer).get(address).status_code, 404)
