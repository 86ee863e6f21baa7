"""What moved to the rooms instruments and condition; their migrations rename the tables, so that only the state changes here."""

import django.db.models.deletion
from django.db import migrations, models


def _to(model: str) -> models.ForeignKey:
    return models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=model)


class Migration(migrations.Migration):
    dependencies = [
        ("bench", "0010_learnt_append_only"),
        ("instruments", "0001_initial"),
        ("condition", "0003_diagnosis"),
    ]
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField("dialtrace", "instrument", _to("instruments.instrument")),
                migrations.AlterField("reading", "instrument", _to("instruments.instrument")),
                migrations.AlterField("reading", "meter_table", _to("instruments.metertable")),
                migrations.DeleteModel("InstrumentCheck"),
                migrations.DeleteModel("MeterTable"),
                migrations.DeleteModel("Instrument"),
                migrations.DeleteModel("CheckAnswer"),
                migrations.DeleteModel("Finding"),
            ]
        )
    ]
