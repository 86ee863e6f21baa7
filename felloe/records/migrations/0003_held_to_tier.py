from django.db import migrations, models

#: What the four usual tiers were when jobs carried no figures of their own: lateral, radial, dish [mm], tension [%].
WERE = {"roadworthy": (1.0, 1.0, 1.0, 25.0), "fine": (0.3, 0.3, 0.3, 15.0), "race": (0.2, 0.2, 0.2, 10.0)}
FILL = "ALTER TABLE records_signoff DISABLE TRIGGER USER;\n" + "".join(
    f"UPDATE records_signoff SET tier_lateral_mm = {lateral}, tier_radial_mm = {radial}, tier_dish_mm = {dish}, "
    f"tier_tension_percent = {tension} WHERE tier = '{name}';\n"
    for name, (lateral, radial, dish, tension) in WERE.items()
) + "ALTER TABLE records_signoff ENABLE TRIGGER USER;\n"
SOUND = {"tier_lateral_mm": 0.5, "tier_radial_mm": 0.5, "tier_dish_mm": 0.5, "tier_tension_percent": 20.0}
WITHIN = models.Q(**{f"{name}__{bound}": value for name in SOUND for bound, value in (("gt", 0), ("lte", 100))})


class Migration(migrations.Migration):
    dependencies = [("records", "0002_said"), ("queue", "0013_held_to_tier")]

    operations = [
        migrations.AlterField("signoff", "tier", models.CharField(default="sound", max_length=20)),
        *(
            migrations.AddField("signoff", name, models.FloatField(default=value), preserve_default=False)
            for name, value in SOUND.items()
        ),
        migrations.RunSQL(FILL, migrations.RunSQL.noop),
        migrations.AddConstraint("signoff", models.CheckConstraint(condition=WITHIN, name="sign_off_tier_known")),
    ]
