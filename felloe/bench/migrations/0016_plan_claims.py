"""What a plan claims nothing of stands with the plan, live or not."""

from django.db import migrations, models

COPY = """
UPDATE bench_plan SET unread = bench_livepass.unread, by_eye = bench_livepass.by_eye
    FROM bench_livepass WHERE bench_livepass.plan_id = bench_plan.id;
"""
BACK = """
UPDATE bench_livepass SET unread = bench_plan.unread, by_eye = bench_plan.by_eye
    FROM bench_plan WHERE bench_livepass.plan_id = bench_plan.id;
"""


class Migration(migrations.Migration):
    dependencies = [("bench", "0015_live_append_only")]
    operations = [
        migrations.AddField(
            "plan",
            "unread",
            models.JSONField(default=list, help_text="Figures of which too little was read: nothing is claimed of them"),
        ),
        migrations.AddField(
            "plan", "by_eye", models.JSONField(default=list, help_text="Figures that were only told by eye")
        ),
        migrations.RunSQL(COPY, BACK),
        migrations.RemoveField("livepass", "unread"),
        migrations.RemoveField("livepass", "by_eye"),
    ]
