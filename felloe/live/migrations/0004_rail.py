from django.db import migrations

#: The chances of promises were played anew: the rail is asked for again.
PLAYED = """
CREATE TRIGGER live AFTER INSERT OR UPDATE OF played_at ON promises_shopplay
    FOR EACH ROW EXECUTE FUNCTION felloe_live('rail', 'shop_id', '');
"""


class Migration(migrations.Migration):
    dependencies = [("live", "0003_tiers"), ("promises", "0002_played_for_what")]
    operations = [migrations.RunSQL(PLAYED, "DROP TRIGGER live ON promises_shopplay;")]
