"""A job's history is append-only, by the same trigger function as the readings."""

from django.db import migrations

FORWARD = """
CREATE TRIGGER job_event_append_only BEFORE UPDATE OR DELETE ON queue_jobevent
    FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();
"""
BACKWARD = "DROP TRIGGER job_event_append_only ON queue_jobevent;"


class Migration(migrations.Migration):
    dependencies = [("queue", "0001_initial"), ("bench", "0002_readings_append_only")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
