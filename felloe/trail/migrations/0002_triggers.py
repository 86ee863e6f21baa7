"""Triggers that write the trail: what differs of a row, as the database sees it, whoever changed it by whatever way."""

from django.db import migrations

#: Table and topic. A shop's own row is its own shop.
TABLES = {
    "accounts_shop": "shop",
    "accounts_user": "person",
    "queue_place": "place",
    "queue_shoptier": "tier",
    "calendar_openspan": "open",
    "calendar_closedday": "closed",
    "calendar_shift": "shift",
    "calendar_absence": "absence",
    "instruments_instrument": "instrument",
    "wheels_wheel": "wheel",
    "stock_part": "part",
    "customers_customer": "customer",
    "customers_bike": "bike",
}
FUNCTION = """
CREATE FUNCTION felloe_trail() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    -- What changes with every save and says nothing, and what nobody may read.
    quiet CONSTANT text[] := ARRAY['id', 'shop_id', 'version', 'prices_version', 'changed_at', 'changed_by_id', 'created_at',
        'created_by_id', 'last_login', 'date_joined', 'is_staff', 'is_superuser'];
    hidden CONSTANT text[] := ARRAY['password', 'pin'];
    was jsonb := CASE WHEN TG_OP = 'INSERT' THEN '{}' ELSE to_jsonb(OLD) END;
    now_is jsonb := CASE WHEN TG_OP = 'DELETE' THEN '{}' ELSE to_jsonb(NEW) END;
    whole jsonb := CASE WHEN TG_OP = 'DELETE' THEN was ELSE now_is END;
    found jsonb := '{}';
    name text;
    signed text := nullif(current_setting('felloe.by', true), '');
BEGIN
    FOR name IN SELECT jsonb_object_keys(whole) LOOP
        IF name = ANY (quiet) OR was -> name IS NOT DISTINCT FROM now_is -> name THEN
            CONTINUE;
        END IF;
        IF name = ANY (hidden) THEN
            found := found || jsonb_build_object(name, jsonb_build_array('•', '•'));
        ELSE
            found := found || jsonb_build_object(name, jsonb_build_array(was -> name, now_is -> name));
        END IF;
    END LOOP;
    IF found <> '{}' THEN
        INSERT INTO trail_change (shop_id, topic, "row", deed, fields, at, by_id)
        VALUES (
            (CASE WHEN TG_TABLE_NAME = 'accounts_shop' THEN whole ->> 'id' ELSE whole ->> 'shop_id' END)::uuid,
            TG_ARGV[0], (whole ->> 'id')::uuid,
            CASE TG_OP WHEN 'INSERT' THEN 'made' WHEN 'UPDATE' THEN 'changed' ELSE 'gone' END,
            found, now(),
            coalesce(signed, whole ->> 'changed_by_id', whole ->> 'created_by_id')::uuid
        );
    END IF;
    RETURN NULL;
END $$;
"""
FORWARD = FUNCTION + "".join(
    f"CREATE TRIGGER {table}_trail AFTER INSERT OR UPDATE OR DELETE ON {table} "
    # While a customer is erased the names that go are not written down again.
    "FOR EACH ROW WHEN (current_setting('felloe.erasing', true) IS DISTINCT FROM 'on') "
    f"EXECUTE FUNCTION felloe_trail('{topic}');\n"
    for table, topic in TABLES.items()
) + """
CREATE TRIGGER trail_change_append_only BEFORE UPDATE OR DELETE ON trail_change
    FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();
"""
BACKWARD = "".join(f"DROP TRIGGER {table}_trail ON {table};\n" for table in TABLES) + """
DROP TRIGGER trail_change_append_only ON trail_change;
DROP FUNCTION felloe_trail();
"""


class Migration(migrations.Migration):
    dependencies = [
        ("trail", "0001_initial"),
        ("accounts", "0009_texts"),
        ("bench", "0020_proofs_append_only"),
        ("calendar", "0001_initial"),
        ("customers", "0003_reach_and_merge"),
        ("instruments", "0002_said"),
        ("queue", "0015_find_at_once"),
        ("stock", "0003_said"),
        ("wheels", "0003_asset_number"),
    ]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
