"""Readings are append-only: the database itself refuses to change or delete one."""

from django.db import migrations

FORWARD = """
CREATE FUNCTION felloe_refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'rows of % are append-only', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER reading_append_only BEFORE UPDATE OR DELETE ON bench_reading
    FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();
"""
BACKWARD = """
DROP TRIGGER reading_append_only ON bench_reading;
DROP FUNCTION felloe_refuse_change();
"""


class Migration(migrations.Migration):
    dependencies = [("bench", "0001_initial")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
