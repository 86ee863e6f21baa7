"""Instruments move out of the bench; their tables keep their rows."""

import django.db.models.deletion
import uuid
from django.conf import settings
from django.db import migrations, models

FORWARD = """
ALTER TABLE bench_instrument RENAME TO instruments_instrument;
ALTER TABLE bench_metertable RENAME TO instruments_metertable;
ALTER TABLE bench_instrumentcheck RENAME TO instruments_instrumentcheck;
ALTER INDEX bench_meter_meter_i_47bcb8_idx RENAME TO instruments_meter_i_221916_idx;
ALTER INDEX bench_instr_instrum_63998c_idx RENAME TO instruments_instrum_9c9560_idx;
"""
BACKWARD = """
ALTER INDEX instruments_meter_i_221916_idx RENAME TO bench_meter_meter_i_47bcb8_idx;
ALTER INDEX instruments_instrum_9c9560_idx RENAME TO bench_instr_instrum_63998c_idx;
ALTER TABLE instruments_instrument RENAME TO bench_instrument;
ALTER TABLE instruments_metertable RENAME TO bench_metertable;
ALTER TABLE instruments_instrumentcheck RENAME TO bench_instrumentcheck;
"""


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('accounts', '0003_spokes_and_stock'),
        ('bench', '0010_learnt_append_only'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunSQL(FORWARD, BACKWARD)],
            state_operations=[
                migrations.CreateModel(
                    name='Instrument',
                    fields=[
                        ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('version', models.PositiveIntegerField(default=1)),
                        ('changed_at', models.DateTimeField(auto_now=True)),
                        ('name', models.CharField(max_length=120)),
                        ('kind', models.CharField(default='tension_meter', max_length=16)),
                        ('owner', models.CharField(blank=True, help_text="Whose it is, where not the shop's", max_length=120)),
                        ('serial', models.CharField(blank=True, max_length=60)),
                        ('use', models.CharField(choices=[('in_use', 'In use'), ('resting', 'Put aside'), ('retired', 'Retired')], default='in_use', max_length=8)),
                        ('check_every_days', models.PositiveSmallIntegerField(default=180)),
                        ('address', models.CharField(blank=True, help_text='host:port of one that streams lines over TCP', max_length=120)),
                        ('changed_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('shop', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='accounts.shop')),
                    ],
                ),
                migrations.CreateModel(
                    name='MeterTable',
                    fields=[
                        ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('spoke_kind', models.CharField(max_length=40)),
                        ('readings', models.JSONField()),
                        ('forces_n', models.JSONField()),
                        ('resolution', models.FloatField(default=0.5)),
                        ('residual_n', models.FloatField(default=20.0)),
                        ('source', models.CharField(choices=[('maker', "The maker's chart"), ('calibrated', 'Calibrated here'), ('derived', 'Derived from another thickness')], default='maker', max_length=10)),
                        ('points', models.JSONField(default=dict, help_text='Readings and known loads of a calibration')),
                        ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('derived_from', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='instruments.metertable')),
                        ('meter', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='tables', to='instruments.instrument')),
                        ('shop', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='accounts.shop')),
                    ],
                ),
                migrations.CreateModel(
                    name='InstrumentCheck',
                    fields=[
                        ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('passed', models.BooleanField()),
                        ('note', models.CharField(max_length=500)),
                        ('figures', models.JSONField(default=dict)),
                        ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL)),
                        ('instrument', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='checks', to='instruments.instrument')),
                        ('shop', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='accounts.shop')),
                        ('table', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='instruments.metertable')),
                    ],
                ),
                migrations.AddConstraint(
                    model_name='instrument',
                    constraint=models.UniqueConstraint(fields=('shop', 'name'), name='instrument_name_once_in_shop'),
                ),
                migrations.AddConstraint(
                    model_name='instrument',
                    constraint=models.CheckConstraint(condition=models.Q(('kind__in', ['tension_meter', 'dial', 'caliper', 'ruler', 'dishing_gauge', 'stand'])), name='instrument_kind_known'),
                ),
                migrations.AddConstraint(
                    model_name='instrument',
                    constraint=models.CheckConstraint(condition=models.Q(('use__in', ['in_use', 'resting', 'retired'])), name='instrument_use_known'),
                ),
                migrations.AddConstraint(
                    model_name='instrument',
                    constraint=models.CheckConstraint(condition=models.Q(('check_every_days__gte', 1), ('check_every_days__lte', 3650)), name='instrument_days_in_range'),
                ),
                migrations.AddIndex(
                    model_name='metertable',
                    index=models.Index(fields=['meter', 'spoke_kind', 'created_at'], name='instruments_meter_i_221916_idx'),
                ),
                migrations.AddConstraint(
                    model_name='metertable',
                    constraint=models.CheckConstraint(condition=models.Q(('resolution__gt', 0)), name='meter_resolution_positive'),
                ),
                migrations.AddConstraint(
                    model_name='metertable',
                    constraint=models.CheckConstraint(condition=models.Q(('residual_n__gte', 0)), name='meter_residual_not_negative'),
                ),
                migrations.AddConstraint(
                    model_name='metertable',
                    constraint=models.CheckConstraint(condition=models.Q(('source__in', ['maker', 'calibrated', 'derived'])), name='meter_table_source_known'),
                ),
                migrations.AddConstraint(
                    model_name='metertable',
                    constraint=models.CheckConstraint(condition=models.Q(models.Q(('source', 'derived'), _negated=True), ('derived_from__isnull', False), _connector='OR'), name='derived_table_says_from_what'),
                ),
                migrations.AddIndex(
                    model_name='instrumentcheck',
                    index=models.Index(fields=['instrument', 'created_at'], name='instruments_instrum_9c9560_idx'),
                ),
            ],
        ),
    ]
