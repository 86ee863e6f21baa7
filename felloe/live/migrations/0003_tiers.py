from django.db import migrations

#: A set's spread follows its readings, which are told of themselves: only the rest of it is news to the other screens.
SETS = """
DROP TRIGGER live ON bench_readingset;
CREATE TRIGGER live AFTER INSERT OR DELETE OR UPDATE OF job_id, stage, number ON bench_readingset
    FOR EACH ROW EXECUTE FUNCTION felloe_live('job', 'job_id', 'job');
"""
SETS_BACK = """
DROP TRIGGER live ON bench_readingset;
CREATE TRIGGER live AFTER INSERT OR UPDATE OR DELETE ON bench_readingset
    FOR EACH ROW EXECUTE FUNCTION felloe_live('job', 'job_id', 'job');
"""
TIERS = """
CREATE TRIGGER live AFTER INSERT OR UPDATE OR DELETE ON queue_shoptier
    FOR EACH ROW EXECUTE FUNCTION felloe_live('tiers', 'id', '');
"""


class Migration(migrations.Migration):
    dependencies = [("live", "0002_triggers"), ("queue", "0014_shop_tiers"), ("bench", "0018_set_spread")]

    operations = [
        migrations.RunSQL(SETS, SETS_BACK),
        migrations.RunSQL(TIERS, "DROP TRIGGER live ON queue_shoptier;"),
    ]
