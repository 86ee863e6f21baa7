"""Tables, checks and traces are append-only, by the same trigger function as the readings."""

from django.db import migrations

TABLES = ("bench_metertable", "bench_instrumentcheck", "bench_dialtrace", "bench_tracewithdrawal")
FORWARD = "".join(
    f"CREATE TRIGGER {table}_append_only BEFORE UPDATE OR DELETE ON {table} "
    "FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();\n"
    for table in TABLES
)
BACKWARD = "".join(f"DROP TRIGGER {table}_append_only ON {table};\n" for table in TABLES)


class Migration(migrations.Migration):
    dependencies = [("bench", "0007_measuring")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
