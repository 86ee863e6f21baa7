"""The ledger and the lines of an order are append-only, by the same trigger function as the readings."""

from django.db import migrations

TABLES = ("stock_movement", "stock_orderline")
FORWARD = "".join(
    f"CREATE TRIGGER {table}_append_only BEFORE UPDATE OR DELETE ON {table} "
    "FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();\n"
    for table in TABLES
)
BACKWARD = "".join(f"DROP TRIGGER {table}_append_only ON {table};\n" for table in TABLES)


class Migration(migrations.Migration):
    dependencies = [("stock", "0001_initial"), ("bench", "0002_readings_append_only")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
