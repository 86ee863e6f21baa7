"""Meters become instruments of any kind; nothing is lost."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("bench", "0005_mended")]
    operations = [
        migrations.RenameModel("Meter", "Instrument"),
        migrations.RemoveConstraint("Instrument", "meter_name_once_in_shop"),
        migrations.RemoveConstraint("MeterTable", "one_table_per_spoke_kind"),
    ]
