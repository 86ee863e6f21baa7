"""What the ledger leaves is kept beside it by the database, with each entry, whoever writes it; and by nobody else."""

from django.db import migrations

#: Changed before it is put in: a check looks at what is to be put in also where that becomes a change.
FORWARD = """
INSERT INTO stock_balance (part_id, shop_id, on_hand)
SELECT part_id, shop_id, sum(delta) FROM stock_movement GROUP BY part_id, shop_id;

WITH run AS (
    SELECT part_id, job_id, shop_id, created_at, claim_delta,
        sum(claim_delta) OVER (PARTITION BY part_id, job_id ORDER BY created_at, id) AS held
    FROM stock_movement WHERE claim_delta <> 0
), let_go AS (SELECT part_id, job_id, max(created_at) AS at FROM run WHERE held = 0 GROUP BY part_id, job_id)
INSERT INTO stock_claimed (part_id, job_id, shop_id, count, since)
SELECT r.part_id, r.job_id, r.shop_id, sum(r.claim_delta), min(r.created_at)
FROM run r LEFT JOIN let_go l ON l.part_id = r.part_id AND l.job_id = r.job_id
WHERE l.at IS NULL OR r.created_at > l.at
GROUP BY r.part_id, r.job_id, r.shop_id HAVING sum(r.claim_delta) > 0;

CREATE FUNCTION felloe_stock_balance() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE stock_balance b SET on_hand = b.on_hand + a.delta
    FROM (SELECT part_id, sum(delta) AS delta FROM added GROUP BY part_id) a WHERE b.part_id = a.part_id AND a.delta <> 0;
    INSERT INTO stock_balance (part_id, shop_id, on_hand)
    SELECT a.part_id, a.shop_id, sum(a.delta) FROM added a
    WHERE NOT EXISTS (SELECT 1 FROM stock_balance b WHERE b.part_id = a.part_id) GROUP BY a.part_id, a.shop_id;

    IF EXISTS (SELECT 1 FROM added WHERE claim_delta <> 0) THEN
        UPDATE stock_claimed c SET count = c.count + a.delta
        FROM (SELECT part_id, job_id, sum(claim_delta) AS delta FROM added WHERE claim_delta <> 0 GROUP BY part_id, job_id) a
        WHERE c.part_id = a.part_id AND c.job_id = a.job_id;
        INSERT INTO stock_claimed (part_id, job_id, shop_id, count, since)
        SELECT a.part_id, a.job_id, a.shop_id, sum(a.claim_delta), min(a.created_at) FROM added a
        WHERE a.claim_delta <> 0
            AND NOT EXISTS (SELECT 1 FROM stock_claimed c WHERE c.part_id = a.part_id AND c.job_id = a.job_id)
        GROUP BY a.part_id, a.job_id, a.shop_id;
        DELETE FROM stock_claimed c USING added a WHERE c.part_id = a.part_id AND c.job_id = a.job_id AND c.count = 0;
    END IF;
    RETURN NULL;
END $$;

CREATE TRIGGER stock_movement_balance AFTER INSERT ON stock_movement
REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION felloe_stock_balance();

CREATE FUNCTION felloe_only_the_ledger() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    -- 1 is this trigger itself: nothing else stands between it and whoever wrote.
    IF pg_trigger_depth() = 1 THEN
        RAISE EXCEPTION '%: what the ledger leaves is written by the ledger', TG_TABLE_NAME;
    END IF;
    RETURN CASE TG_OP WHEN 'DELETE' THEN OLD ELSE NEW END;
END $$;

CREATE TRIGGER stock_balance_of_the_ledger BEFORE INSERT OR UPDATE OR DELETE ON stock_balance
FOR EACH ROW EXECUTE FUNCTION felloe_only_the_ledger();
CREATE TRIGGER stock_claimed_of_the_ledger BEFORE INSERT OR UPDATE OR DELETE ON stock_claimed
FOR EACH ROW EXECUTE FUNCTION felloe_only_the_ledger();
"""
BACKWARD = """
DROP TRIGGER stock_claimed_of_the_ledger ON stock_claimed;
DROP TRIGGER stock_balance_of_the_ledger ON stock_balance;
DROP TRIGGER stock_movement_balance ON stock_movement;
DROP FUNCTION felloe_only_the_ledger();
DROP FUNCTION felloe_stock_balance();
DELETE FROM stock_claimed;
DELETE FROM stock_balance;
"""


class Migration(migrations.Migration):
    dependencies = [("stock", "0004_balances")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
