"""Tell a change of stock once a transaction, however many parts it is of: the page asks for all of them anew in any case."""

from django.db import migrations

TABLES = ("stock_part", "stock_movement", "stock_purchaseorder")
BEFORE = {"stock_part": "id", "stock_movement": "part_id", "stock_purchaseorder": "id"}
#: What has been told in this transaction is not told again: a look is cheaper than an insertion that meets its like.
FUNCTION = """
CREATE OR REPLACE FUNCTION felloe_tell(
    its_shop uuid, topic text, subject text, job uuid, reading_set uuid, plan uuid, spoke text)
RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    IF EXISTS (
        SELECT 1 FROM live_liveevent e
        WHERE e.xid = pg_current_xact_id()::text::bigint AND e.topic = felloe_tell.topic AND e.subject = felloe_tell.subject
    ) THEN
        RETURN;
    END IF;
    INSERT INTO live_liveevent (shop_id, xid, topic, subject, job, reading_set, plan, spoke, by, tab, at)
    VALUES (its_shop, pg_current_xact_id()::text::bigint, topic, subject, job, reading_set, plan, spoke,
            coalesce(current_setting('felloe.by', true), ''), coalesce(current_setting('felloe.tab', true), ''),
            clock_timestamp())
    ON CONFLICT ON CONSTRAINT told_once_a_transaction DO NOTHING;
    PERFORM pg_notify('felloe_live', '');
END $$;
"""


def triggers(columns):
    return "".join(
        f"DROP TRIGGER live ON {table};\n"
        f"CREATE TRIGGER live AFTER INSERT OR UPDATE OR DELETE ON {table} FOR EACH ROW "
        f"EXECUTE FUNCTION felloe_live('stock', '{column}', '');\n"
        for table, column in columns.items()
    )


class Migration(migrations.Migration):
    dependencies = [("live", "0004_rail"), ("stock", "0003_said")]
    operations = [
        migrations.RunSQL(FUNCTION + triggers(dict.fromkeys(TABLES, "shop_id")), triggers(BEFORE)),
    ]
