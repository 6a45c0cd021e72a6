"""What the ORM cannot say: trees and targets joined by distance, in one question that the spatial indexes
answer.
"""

# plant, target, metres between them; of a group its outline counts
NEAR = """
SELECT p.id, t.id, ST_Distance(p.place, t.shape)
  FROM plants_plant p JOIN inspections_target t ON ST_DWithin(p.place, t.shape, %(metres)s)
 WHERE p.block_id = ANY(%(blocks)s) AND t.id = ANY(%(targets)s)
UNION ALL
SELECT p.id, t.id, ST_Distance(p.outline, t.shape)
  FROM plants_plant p JOIN inspections_target t ON ST_DWithin(p.outline, t.shape, %(metres)s)
 WHERE p.place IS NULL AND p.block_id = ANY(%(blocks)s) AND t.id = ANY(%(targets)s)
"""

# plant, occupancy, metres to the nearest target of that occupancy
NEAREST = """
SELECT near.plant, t.occupancy, min(near.metres)
  FROM (SELECT p.id AS plant, t.id AS target, ST_Distance(p.place, t.shape) AS metres
          FROM plants_plant p JOIN inspections_target t ON ST_DWithin(p.place, t.shape, %(metres)s)
         WHERE p.id = ANY(%(plants)s) AND t.id = ANY(%(targets)s)
        UNION ALL
        SELECT p.id, t.id, ST_Distance(p.outline, t.shape)
          FROM plants_plant p JOIN inspections_target t ON ST_DWithin(p.outline, t.shape, %(metres)s)
         WHERE p.place IS NULL AND p.id = ANY(%(plants)s) AND t.id = ANY(%(targets)s)) AS near
  JOIN inspections_target t ON t.id = near.target
 GROUP BY near.plant, t.occupancy
"""
