"""What is append-only lets names be taken out while a customer is erased, and only then; consents and erasures are
append-only themselves."""

from django.db import migrations

FORWARD = """
CREATE OR REPLACE FUNCTION felloe_refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF current_setting('felloe.erasing', true) = 'on' THEN
        IF TG_OP = 'DELETE' THEN RETURN OLD; END IF;
        RETURN NEW;
    END IF;
    RAISE EXCEPTION 'rows of % are append-only', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER privacy_consent_append_only BEFORE UPDATE OR DELETE ON privacy_consent
    FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();
CREATE TRIGGER privacy_erasure_append_only BEFORE UPDATE OR DELETE ON privacy_erasure
    FOR EACH ROW EXECUTE FUNCTION felloe_refuse_change();
"""
BACKWARD = """
DROP TRIGGER privacy_consent_append_only ON privacy_consent;
DROP TRIGGER privacy_erasure_append_only ON privacy_erasure;
CREATE OR REPLACE FUNCTION felloe_refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'rows of % are append-only', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
"""


class Migration(migrations.Migration):
    dependencies = [("privacy", "0001_initial"), ("bench", "0020_proofs_append_only")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
