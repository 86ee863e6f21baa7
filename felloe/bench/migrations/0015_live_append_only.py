"""What was seen in a live pass is append-only, by the same trigger function as the readings."""

from django.db import migrations

FORWARD = """
CREATE TRIGGER bench_livelook_append_only BEFORE UPDATE OR DELETE ON bench_livelook
    FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();
"""
BACKWARD = "DROP TRIGGER bench_livelook_append_only ON bench_livelook;"


class Migration(migrations.Migration):
    dependencies = [("bench", "0014_live_truing")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
