"""What was read before going on is append-only, by the same trigger function as the readings."""

from django.db import migrations

FORWARD = """
CREATE TRIGGER bench_resumeproof_append_only BEFORE UPDATE OR DELETE ON bench_resumeproof
    FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();
"""
BACKWARD = "DROP TRIGGER bench_resumeproof_append_only ON bench_resumeproof;"


class Migration(migrations.Migration):
    dependencies = [("bench", "0019_resume_proof")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
