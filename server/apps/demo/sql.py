"""The statements that multiply a few recorded plants to a large site."""

PASS_OVER_TRIGGERS = "SET session_replication_role = replica"
HEED_TRIGGERS = "SET session_replication_role = DEFAULT"

TEMPLATE_TABLE = """
CREATE TEMP TABLE template_entry (
    template int, visit int, place int, kind text, body jsonb
)
"""
TEMPLATE_ROW = "INSERT INTO template_entry VALUES (%s, %s, %s, %s, %s)"

_NUMBERS = """
DROP TABLE IF EXISTS made;
CREATE TEMP TABLE made AS
SELECT i, i %% %(templates)s AS template, gen_random_uuid() AS plant,
       ARRAY[gen_random_uuid(), gen_random_uuid(), gen_random_uuid()] AS visits,
       %(lon)s + 0.0095 * random() AS lon, %(lat)s + 0.0095 * random() AS lat
FROM generate_series(%(first)s, %(last)s) AS i
"""

_PLANTS = """
INSERT INTO plants_plant (id, organisation_id, block_id, form, place, how_taken, origin, row_name,
                          recorded_by_id, recorded_at, received_at)
SELECT plant, %(organisation)s, %(block)s, 'tree', ST_SetSRID(ST_MakePoint(lon, lat), 4326)::geography,
       'surveyed', 'planted', '', %(author)s, '2020-06-01 12:00+00', now()
FROM made
"""

_VISITS = """
INSERT INTO plants_visit (id, organisation_id, plant_id, author_id, mode, local_date, observed_at,
                          utc_offset_min, received_at, stage, setting, origin, light, sex, clock_doubtful)
SELECT visits[v + 1], %(organisation)s, plant, %(author)s, 'field',
       make_date(2020 + 3 * v, 6, 1), make_timestamptz(2020 + 3 * v, 6, 1, 12, 0, 0, 'UTC'), 0,
       now(), 'mature', 'street', 'planted', 'unknown', 'unknown', false
FROM made CROSS JOIN generate_series(0, 2) AS v
"""

_ENTRIES = """
INSERT INTO plants_entry (id, organisation_id, plant_id, visit_id, kind, version, body, author_id,
                          recorded_at, received_at, reason)
SELECT gen_random_uuid(), %(organisation)s, m.plant, m.visits[t.visit + 1], t.kind, %(version)s,
       CASE t.kind WHEN 'tag' THEN jsonb_build_object('number', lpad(m.i::text, 7, '0')) ELSE t.body END,
       %(author)s, make_timestamptz(2020 + 3 * t.visit, 6, 1, 12, 0, 0, 'UTC'), now(), ''
FROM made m JOIN template_entry t USING (template)
"""

# What the projection makes of these entries; a test compares it with a rebuild.
_CURRENT = """
INSERT INTO plants_current (plant_id, organisation_id, block_id, tag, tag_clash, taxon, name, name_rank,
                            dbh_cm, dbh_height_m, height_m, condition, life, signs, visits, last_seen,
                            contested)
SELECT m.plant, %(organisation)s, %(block)s, lpad(m.i::text, 7, '0'), false,
       n.body->>'taxon', n.body->>'name', n.body->>'name_rank',
       (d.body->>'value')::float8, (d.body->>'at_height_m')::float8, (h.body->>'value')::float8,
       c.body->>'word', 'alive',
       coalesce((SELECT jsonb_agg(s.body->'sign') FROM template_entry s
                 WHERE s.template = m.template AND s.kind = 'sign'), '[]'),
       3, '2026-06-01', false
FROM made m
JOIN template_entry n ON n.template = m.template AND n.kind = 'determination'
JOIN template_entry d ON d.template = m.template AND d.visit = 2 AND d.body->>'quantity' = 'dbh_cm'
JOIN template_entry h ON h.template = m.template AND h.visit = 2 AND h.body->>'quantity' = 'height_m'
JOIN template_entry c ON c.template = m.template AND c.visit = 2 AND c.kind = 'condition'
"""

_SPANS = """
INSERT INTO plants_plantspan (plant_id, organisation_id, from_day, to_day, taxon, dbh_cm, height_m,
                             condition, life)
SELECT m.plant, %(organisation)s, make_date(2020 + 3 * v, 6, 1),
       CASE WHEN v < 2 THEN make_date(2023 + 3 * v, 6, 1) END,
       n.body->>'taxon', (d.body->>'value')::float8, (h.body->>'value')::float8, c.body->>'word', 'alive'
FROM made m CROSS JOIN generate_series(0, 2) AS v
JOIN template_entry n ON n.template = m.template AND n.kind = 'determination'
JOIN template_entry d ON d.template = m.template AND d.visit = v AND d.body->>'quantity' = 'dbh_cm'
JOIN template_entry h ON h.template = m.template AND h.visit = CASE v WHEN 2 THEN 2 ELSE 0 END
                     AND h.body->>'quantity' = 'height_m'
JOIN template_entry c ON c.template = m.template AND c.visit = v AND c.kind = 'condition'
"""

FILL_BLOCK = (_NUMBERS, _PLANTS, _VISITS, _ENTRIES, _CURRENT, _SPANS)
