"""What differs of a row, found by one query instead of a walk that builds the answer anew with every column."""

from django.db import migrations

FUNCTION = """
CREATE OR REPLACE FUNCTION felloe_trail() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    -- What changes with every save and says nothing, and what nobody may read.
    quiet CONSTANT text[] := ARRAY['id', 'shop_id', 'version', 'prices_version', 'changed_at', 'changed_by_id', 'created_at',
        'created_by_id', 'last_login', 'date_joined', 'is_staff', 'is_superuser'];
    hidden CONSTANT text[] := ARRAY['password', 'pin', 'one_person'];
    was jsonb := CASE WHEN TG_OP = 'INSERT' THEN '{}' ELSE to_jsonb(OLD) END;
    now_is jsonb := CASE WHEN TG_OP = 'DELETE' THEN '{}' ELSE to_jsonb(NEW) END;
    whole jsonb := CASE WHEN TG_OP = 'DELETE' THEN was ELSE now_is END;
    found jsonb;
    signed text := nullif(current_setting('felloe.by', true), '');
BEGIN
    SELECT jsonb_object_agg(
        n.name,
        CASE WHEN n.name = ANY (hidden) THEN '["•", "•"]' ELSE jsonb_build_array(was -> n.name, now_is -> n.name) END
    ) INTO found
    FROM jsonb_object_keys(whole) n (name)
    WHERE n.name <> ALL (quiet) AND was -> n.name IS DISTINCT FROM now_is -> n.name;
    IF found IS NOT NULL THEN
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


class Migration(migrations.Migration):
    dependencies = [("trail", "0002_triggers")]
    operations = [migrations.RunSQL(FUNCTION, migrations.RunSQL.noop)]
