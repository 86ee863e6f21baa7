-- Wheels of the demo shop copied as a shop of some years would hold them; figures between colons are set by shop.py.
-- Nobody waits to hear of rows that stand for years gone by.
ALTER TABLE customers_customer DISABLE TRIGGER live;
ALTER TABLE customers_bike DISABLE TRIGGER live;
ALTER TABLE wheels_wheel DISABLE TRIGGER live;
ALTER TABLE queue_job DISABLE TRIGGER live;
ALTER TABLE bench_readingset DISABLE TRIGGER live;
ALTER TABLE bench_reading DISABLE TRIGGER live;
CREATE TEMP TABLE given AS
    SELECT j.shop_id, j.wheel_id, w.specification, w.kind, w.position, u.id AS who, random() AS r
    FROM queue_job j JOIN wheels_wheel w ON w.id = j.wheel_id JOIN accounts_user u ON u.shop_id = j.shop_id
    WHERE u.username = 'bram';
CREATE TEMP TABLE people AS
    SELECT gen_random_uuid() AS customer, gen_random_uuid() AS bike, i,
        (SELECT shop_id FROM given LIMIT 1) AS shop, (SELECT who FROM given LIMIT 1) AS who
    FROM generate_series(1, :customers:) i;
INSERT INTO customers_customer (id, created_at, version, changed_at, name, phone, email, prefers, language, note, shop_id, created_by_id)
    SELECT customer, now(), 1, now(), 'Kit ' || (ARRAY['Marren','Sallow','Tregenza','Ashdown','Pellow','Quick'])[1 + i % 6] || ' ' || i,
        '0700 ' || (100000 + i), '', 'phone', 'en', '', shop, who FROM people;
INSERT INTO customers_bike (id, created_at, version, changed_at, label, asset_number, brake, use, dropout, axle, tyre, directional,
        customer_id, shop_id, created_by_id)
    SELECT bike, now(), 1, now(), (ARRAY['Green','Black','Red','Grey','Blue'])[1 + i % 5] || ' commuter ' || i, '', 'rim', 'everyday', '', '',
        '', false, customer, shop, who FROM people;
CREATE TEMP TABLE made AS
    SELECT gen_random_uuid() AS wheel, gen_random_uuid() AS job, gen_random_uuid() AS readings, n,
        p.bike, p.shop, p.who, n <= :open: AS is_open
    FROM generate_series(1, :open: + :closed:) n JOIN people p ON p.i = 1 + n % :customers:;
INSERT INTO wheels_wheel (id, created_at, version, changed_at, position, asset_number, kind, measured, specification, uncertainty_mm,
        bike_id, shop_id, created_by_id)
    SELECT wheel, now(), 1, now(), g.position, '', g.kind, false, g.specification, '{}', bike, shop, made.who
    FROM made CROSS JOIN LATERAL (SELECT * FROM given WHERE kind <> '' LIMIT 1) g;
INSERT INTO queue_job (id, created_at, version, changed_at, number, complaint, complaint_tags, stage, tier, tier_lateral_mm, tier_radial_mm,
        tier_dish_mm, tier_tension_percent, wanted_at, promised_at,
        waiting_on, waits_since, handed_back_at, ended_as, left_with, with_bike, ready_at, wheel_id, shop_id, created_by_id)
    SELECT job, now() - n * interval '90 min', 1, now(), 1000 + n,
        (ARRAY['Rubs the left pad','Creaks on the hill','Broke a spoke','Wobbles since the ramp','Hops at every turn'])[1 + n % 5],
        '[]', CASE WHEN is_open THEN (ARRAY['take_in','identify','as_found','decide','true','settle','refit'])[1 + n % 7] ELSE 'done' END,
        'sound', 0.5, 0.5, 0.5, 20, NULL, CASE WHEN is_open THEN date_trunc('day', now()) + (1 + n % 14) * interval '1 day' + interval '15 hours' END,
        CASE WHEN is_open AND n % 9 = 0 THEN 'parts' ELSE '' END, CASE WHEN is_open AND n % 9 = 0 THEN now() END,
        CASE WHEN NOT is_open THEN now() - n * interval '30 min' END, CASE WHEN is_open THEN '' ELSE 'repaired' END, '', true,
        CASE WHEN NOT is_open THEN now() - n * interval '30 min' END, wheel, shop, who
    FROM made;
INSERT INTO bench_readingset (id, created_at, stage, number, spread_percent, job_id, shop_id, created_by_id)
    SELECT readings, now(), 'as_found', 1, 5 + n % 40, job, shop, who FROM made;
INSERT INTO bench_reading (id, created_at, kind, spoke, revision, entered, value, sd, withdrawn, reading_set_id, shop_id, created_by_id)
    SELECT gen_random_uuid(), now(), (ARRAY['tension','lateral','radial'])[1 + k / 36], CASE WHEN k % 2 = 0 THEN 'R' ELSE 'L' END
        || (1 + (k % 36) / 2), 1, '{}', CASE WHEN k < 36 THEN 900 + n % 200 ELSE 0.1 * (n % 5) END, 20, false, readings, shop, who
    FROM made CROSS JOIN generate_series(0, :readings: - 1) k;
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE customers_customer ENABLE TRIGGER live;
ALTER TABLE customers_bike ENABLE TRIGGER live;
ALTER TABLE wheels_wheel ENABLE TRIGGER live;
ALTER TABLE queue_job ENABLE TRIGGER live;
ALTER TABLE bench_readingset ENABLE TRIGGER live;
ALTER TABLE bench_reading ENABLE TRIGGER live;
ANALYZE;
