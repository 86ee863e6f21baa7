"""Answers and findings move out of the bench; their tables keep their rows."""

import django.db.models.deletion
import uuid
from django.conf import settings
from django.db import migrations, models

FORWARD = """
ALTER TABLE bench_checkanswer RENAME TO condition_checkanswer;
ALTER TABLE bench_finding RENAME TO condition_finding;
ALTER INDEX bench_check_job_id_bda257_idx RENAME TO condition_c_job_id_7a739a_idx;
"""
BACKWARD = """
ALTER INDEX condition_c_job_id_7a739a_idx RENAME TO bench_check_job_id_bda257_idx;
ALTER TABLE condition_checkanswer RENAME TO bench_checkanswer;
ALTER TABLE condition_finding RENAME TO bench_finding;
"""


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0003_spokes_and_stock'),
        ('condition', '0002_append_only'),
        ('queue', '0005_append_only'),
        ('bench', '0010_learnt_append_only'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunSQL(FORWARD, BACKWARD)],
            state_operations=[
                migrations.CreateModel(
                    name='CheckAnswer',
                    fields=[
                        ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('check_key', models.CharField(max_length=40)),
                        ('answer', models.CharField(max_length=20)),
                        ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='check_answers', to='queue.job')),
                        ('shop', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='accounts.shop')),
                    ],
                    options={
                        'indexes': [models.Index(fields=['job', 'created_at'], name='condition_c_job_id_7a739a_idx')],
                    },
                ),
                migrations.CreateModel(
                    name='Finding',
                    fields=[
                        ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('cause', models.CharField(max_length=40)),
                        ('share', models.FloatField(help_text='Belief in this cause when it was concluded, 0 to 1')),
                        ('overruled', models.BooleanField(default=False)),
                        ('mended', models.BooleanField(default=False, help_text='A later row that says the cause was put right; `reason` says how')),
                        ('reason', models.CharField(blank=True, max_length=500)),
                        ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('job', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='findings', to='queue.job')),
                        ('shop', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='accounts.shop')),
                    ],
                    options={
                        'constraints': [models.CheckConstraint(condition=models.Q(('overruled', False), models.Q(('reason', ''), _negated=True), _connector='OR'), name='overruling_has_reason'), models.CheckConstraint(condition=models.Q(('mended', False), models.Q(('reason', ''), _negated=True), _connector='OR'), name='mending_says_how'), models.CheckConstraint(condition=models.Q(('share__gte', 0), ('share__lte', 1)), name='finding_share_is_a_share')],
                    },
                ),
            ],
        ),
    ]
