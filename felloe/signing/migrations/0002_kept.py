from django.db import migrations

# A key is never taken away, and of an old one only its end is written, once: who signed what must stay to be seen.
KEPT = """
CREATE FUNCTION signing_key_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF TG_OP = 'DELETE' THEN
        RAISE EXCEPTION 'signing keys are kept' USING ERRCODE = 'integrity_constraint_violation';
    END IF;
    IF OLD.ended_at IS NOT NULL OR NEW.public <> OLD.public OR NEW.shop_id <> OLD.shop_id
        OR NEW.created_at <> OLD.created_at OR NEW.vouched_by_id IS DISTINCT FROM OLD.vouched_by_id
        OR NEW.vouched_signature IS DISTINCT FROM OLD.vouched_signature THEN
        RAISE EXCEPTION 'of a signing key only its end is written, once' USING ERRCODE = 'integrity_constraint_violation';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER signing_key_kept BEFORE UPDATE OR DELETE ON signing_signingkey
    FOR EACH ROW EXECUTE FUNCTION signing_key_kept();
"""
GONE = "DROP TRIGGER signing_key_kept ON signing_signingkey; DROP FUNCTION signing_key_kept();"


class Migration(migrations.Migration):
    dependencies = [("signing", "0001_initial")]

    operations = [migrations.RunSQL(KEPT, GONE)]
