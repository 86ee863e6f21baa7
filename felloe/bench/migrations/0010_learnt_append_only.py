"""What was learnt is append-only, by the same trigger function as the readings."""

from django.db import migrations

FORWARD = """
CREATE TRIGGER bench_learntrim_append_only BEFORE UPDATE OR DELETE ON bench_learntrim
    FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();
"""
BACKWARD = "DROP TRIGGER bench_learntrim_append_only ON bench_learntrim;"


class Migration(migrations.Migration):
    dependencies = [("bench", "0009_learnt")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
