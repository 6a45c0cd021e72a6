-- Rows as the first release wrote them: an organisation, its owner, a site, a block, a tree with a visit.
INSERT INTO organisations_organisation VALUES ('{org}', 'Hill Trust');
INSERT INTO auth_user (id, username, password, is_superuser, is_staff, is_active, first_name, last_name, email,
                       date_joined)
VALUES (1, 'ada', '{password}', false, false, true, '', '', '', now());
INSERT INTO organisations_member (id, role, shown_name, user_id, organisation_id)
VALUES ('{member}', 'owner', 'Ada', 1, '{org}');
INSERT INTO sites_site (id, name, areas, lat, lon, elevation_m, breast_height_m, region, units, several_stems,
                        smallest_cm, protection, condition_scale, survey_steps, organisation_id)
VALUES ('{site}', 'Hill', '{{GRB}}', 51.4, -2.4, 60, 1.3, 'uk', 'metric', 'squares', 0, 'bs5837', 'words', '{{}}',
        '{org}');
INSERT INTO sites_block (id, name, boundary, setting, biosecurity, note, revision, organisation_id, site_id)
VALUES ('{block}', 'Lawn', 'POLYGON((-2.401 51.399, -2.399 51.399, -2.399 51.401, -2.401 51.399))', 'street',
        'clean', '', 0, '{org}', '{site}');
INSERT INTO plants_plant (id, organisation_id, block_id, form, place, how_taken, origin, row_name, recorded_by_id,
                          recorded_at, received_at)
VALUES ('{plant}', '{org}', '{block}', 'tree', 'POINT(-2.4 51.3995)', 'tapped', 'planted', '', '{member}', now(),
        now());
INSERT INTO plants_visit (id, organisation_id, plant_id, author_id, observer, mode, local_date, observed_at,
                          utc_offset_min, received_at, stage, setting, origin, light, sex, clock_doubtful)
VALUES ('{visit}', '{org}', '{plant}', '{member}', 'Clara Outside', 'field', '2026-06-01', '2026-06-01 12:00+00', 0,
        now(), 'mature', 'street', 'planted', 'unknown', 'unknown', false);
INSERT INTO plants_entry (id, organisation_id, plant_id, visit_id, kind, version, body, author_id, observer,
                          recorded_at, received_at, reason)
VALUES ('{entry}', '{org}', '{plant}', '{visit}', 'tag', 2, '{{"number": "0042"}}', '{member}', 'Ada',
        '2026-06-01 12:00+00', now(), '');
INSERT INTO plants_current (plant_id, organisation_id, block_id, tag, tag_clash, taxon, name, name_rank, condition,
                            life, signs, visits, last_seen, contested)
VALUES ('{plant}', '{org}', '{block}', '0042', false, '', '', '', '', 'alive', '[]', 1, '2026-06-01', false);
