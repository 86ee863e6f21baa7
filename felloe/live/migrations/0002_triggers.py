from django.db import migrations

#: Table, topic, column of the subject, and what that column leads to.
TOLD = [
    ("queue_job", "job", "id", "job"),
    ("queue_jobevent", "job", "job_id", "job"),
    ("queue_workspan", "job", "job_id", "job"),
    ("queue_photo", "job", "job_id", "job"),
    ("queue_signature", "job", "job_id", "job"),
    ("condition_conditionmark", "job", "job_id", "job"),
    ("condition_spokebreak", "job", "job_id", "job"),
    ("condition_ending", "job", "job_id", "job"),
    ("condition_framecheck", "job", "job_id", "job"),
    ("condition_checkanswer", "job", "job_id", "job"),
    ("condition_finding", "job", "job_id", "job"),
    ("building_spokechoice", "job", "job_id", "job"),
    ("building_oldspoke", "job", "job_id", "job"),
    ("building_kitsheet", "job", "job_id", "job"),
    ("building_workfacts", "job", "job_id", "job"),
    ("building_smallpartscount", "job", "job_id", "job"),
    ("building_stepdone", "job", "job_id", "job"),
    ("building_lacingprogress", "job", "job_id", "job"),
    ("building_lacinglook", "job", "job_id", "job"),
    ("repair_decision", "job", "job_id", "job"),
    ("repair_refitanswer", "job", "job_id", "job"),
    ("records_signoff", "job", "job_id", "job"),
    ("bench_readingset", "job", "job_id", "job"),
    ("bench_reading", "set", "reading_set_id", "set"),
    ("bench_dialtrace", "set", "reading_set_id", "set"),
    ("bench_plan", "set", "reading_set_id", "set"),
    ("bench_livepass", "set", "reading_set_id", "set"),
    ("bench_livelook", "look", "live_pass_id", "pass"),
    ("stock_part", "stock", "id", ""),
    ("stock_movement", "stock", "part_id", ""),
    ("stock_purchaseorder", "stock", "id", ""),
    ("customers_customer", "customer", "id", ""),
    ("customers_bike", "customer", "customer_id", ""),
    ("wheels_wheel", "wheel", "id", ""),
    ("queue_place", "places", "id", ""),
    ("instruments_instrument", "instruments", "id", ""),
    ("instruments_metertable", "instruments", "meter_id", ""),
    ("instruments_instrumentcheck", "instruments", "instrument_id", ""),
    ("calendar_openspan", "shop", "shop_id", ""),
    ("calendar_closedday", "shop", "shop_id", ""),
    ("calendar_shift", "shop", "shop_id", ""),
    ("calendar_absence", "shop", "shop_id", ""),
]

FUNCTION = """
CREATE FUNCTION felloe_tell(its_shop uuid, topic text, subject text, job uuid, reading_set uuid, plan uuid, spoke text)
RETURNS void LANGUAGE sql AS $$
    INSERT INTO live_liveevent (shop_id, xid, topic, subject, job, reading_set, plan, spoke, by, tab, at)
    VALUES (its_shop, pg_current_xact_id()::text::bigint, topic, subject, job, reading_set, plan, spoke,
            coalesce(current_setting('felloe.by', true), ''), coalesce(current_setting('felloe.tab', true), ''),
            clock_timestamp())
    ON CONFLICT (xid, topic, subject) DO NOTHING;
    SELECT pg_notify('felloe_live', '');
$$;

CREATE FUNCTION felloe_live() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    subject uuid;
    its_shop uuid;
    its_job uuid;
    its_set uuid;
BEGIN
    EXECUTE format('SELECT ($1).%I, ($1).shop_id', TG_ARGV[1]) USING coalesce(NEW, OLD) INTO subject, its_shop;
    CASE TG_ARGV[2]
        WHEN 'job' THEN its_job := subject;
        WHEN 'set' THEN
            its_set := subject;
            SELECT s.job_id INTO its_job FROM bench_readingset s WHERE s.id = subject;
        WHEN 'pass' THEN
            SELECT s.id, s.job_id INTO its_set, its_job
            FROM bench_livepass p JOIN bench_readingset s ON s.id = p.reading_set_id WHERE p.id = subject;
        ELSE NULL;
    END CASE;
    PERFORM felloe_tell(its_shop, TG_ARGV[0], subject::text, its_job, its_set, NULL, '');
    RETURN NULL;
END $$;

CREATE FUNCTION felloe_live_move() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    its_job uuid;
    its_set uuid;
    nipple text := NEW.spoke || CASE WHEN NEW.visit = 1 THEN '' ELSE '.' || NEW.visit END;
BEGIN
    SELECT s.id, s.job_id INTO its_set, its_job
    FROM bench_plan p JOIN bench_readingset s ON s.id = p.reading_set_id WHERE p.id = NEW.plan_id;
    PERFORM felloe_tell(NEW.shop_id, 'move', NEW.plan_id || ' ' || nipple, its_job, its_set, NEW.plan_id, nipple);
    RETURN NULL;
END $$;

CREATE FUNCTION felloe_live_staff() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM felloe_tell(NEW.shop_id, 'shop', NEW.id::text, NULL, NULL, NULL, '');
    RETURN NULL;
END $$;

CREATE FUNCTION felloe_live_shop() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM felloe_tell(NEW.id, 'shop', NEW.id::text, NULL, NULL, NULL, '');
    RETURN NULL;
END $$;

CREATE TRIGGER live_move AFTER UPDATE ON bench_planmove FOR EACH ROW EXECUTE FUNCTION felloe_live_move();
-- A pass worked live makes its moves one by one, as they are turned.
CREATE TRIGGER live_move_made AFTER INSERT ON bench_planmove
    FOR EACH ROW WHEN (NEW.state <> 'todo') EXECUTE FUNCTION felloe_live_move();
CREATE TRIGGER live_staff AFTER INSERT OR UPDATE OF role, first_name, last_name, is_active, skills ON accounts_user
    FOR EACH ROW EXECUTE FUNCTION felloe_live_staff();
CREATE TRIGGER live_shop AFTER UPDATE ON accounts_shop FOR EACH ROW EXECUTE FUNCTION felloe_live_shop();
"""

TRIGGER = """
CREATE TRIGGER live AFTER INSERT OR UPDATE OR DELETE ON {table}
    FOR EACH ROW EXECUTE FUNCTION felloe_live('{topic}', '{column}', '{leads}');
"""

UNDO = """
DROP TRIGGER live_move ON bench_planmove;
DROP TRIGGER live_move_made ON bench_planmove;
DROP TRIGGER live_staff ON accounts_user;
DROP TRIGGER live_shop ON accounts_shop;
DROP FUNCTION felloe_live();
DROP FUNCTION felloe_live_move();
DROP FUNCTION felloe_live_staff();
DROP FUNCTION felloe_live_shop();
DROP FUNCTION felloe_tell(uuid, text, text, uuid, uuid, uuid, text);
"""


class Migration(migrations.Migration):
    dependencies = [
        ("live", "0001_initial"),
        ("accounts", "0007_pin_tries"),
        ("customers", "0003_reach_and_merge"),
        ("wheels", "0003_asset_number"),
        ("calendar", "0001_initial"),
        ("queue", "0012_ended_by"),
        ("condition", "0003_diagnosis"),
        ("stock", "0003_said"),
        ("instruments", "0002_said"),
        ("bench", "0016_plan_claims"),
        ("building", "0003_said"),
        ("repair", "0003_said"),
        ("records", "0002_said"),
    ]
    operations = [
        migrations.RunSQL(
            FUNCTION + "".join(TRIGGER.format(table=t, topic=p, column=c, leads=l) for t, p, c, l in TOLD),
            "".join(f"DROP TRIGGER live ON {t};\n" for t, *_ in TOLD) + UNDO,
        )
    ]
