from django.db import migrations


class Migration(migrations.Migration):
    """Chances are kept with the promise that they were played for; those of before are played anew."""

    dependencies = [("promises", "0001_initial")]
    operations = [
        migrations.RunSQL(
            "UPDATE promises_shopplay SET chances = '{}', fingerprint = '', played_at = NULL;", migrations.RunSQL.noop
        )
    ]
