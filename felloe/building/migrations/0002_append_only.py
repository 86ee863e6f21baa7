"""What was chosen, counted and laced is append-only, by the same trigger function as the readings."""

from django.db import migrations

TABLES = (
    "building_oldspoke", "building_spokechoice", "building_kitsheet", "building_workfacts", "building_smallpartscount",
    "building_stepdone", "building_lacingprogress", "building_lacinglook",
)
FORWARD = "".join(
    f"CREATE TRIGGER {table}_append_only BEFORE UPDATE OR DELETE ON {table} "
    "FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();\n"
    for table in TABLES
)
BACKWARD = "".join(f"DROP TRIGGER {table}_append_only ON {table};\n" for table in TABLES)


class Migration(migrations.Migration):
    dependencies = [("building", "0001_initial"), ("bench", "0002_readings_append_only")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
