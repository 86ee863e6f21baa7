from typing import Any

import django.contrib.auth.validators
import django.db.models.deletion
import django.db.models.functions.text
import uuid
from django.conf import settings
from django.db import migrations, models
from django.utils.text import slugify


def _give_codes(apps: Any, schema_editor: Any) -> None:
    """As a new shop gets one (`models.code_for`); names are in small letters, as they are taken at the sign-in."""
    for shop in apps.get_model("accounts", "Shop").objects.all():
        shop.code = f"{slugify(shop.name)[:30] or 'shop'}-{str(shop.pk)[:4]}"
        shop.save(update_fields=["code"])
    for person in apps.get_model("accounts", "User").objects.all():
        if person.username != person.username.lower():
            person.username = person.username.lower()
            person.save(update_fields=["username"])


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0010_keeping'),
        ('auth', '0012_alter_user_first_name_max_length'),
    ]

    operations = [
        migrations.CreateModel(
            name='SecondFactor',
            fields=[
                ('person', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to=settings.AUTH_USER_MODEL)),
                ('sealed_secret', models.BinaryField()),
                ('confirmed_at', models.DateTimeField(help_text='Asked for at sign-in from then on', null=True)),
                ('last_step', models.BigIntegerField(default=0, help_text='The 30 seconds whose code was used last: none is used twice')),
                ('spare_codes', models.JSONField(default=list, help_text='Hashes of those not used yet')),
            ],
        ),
        migrations.CreateModel(
            name='SignedIn',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('session_key', models.CharField(max_length=40, unique=True)),
                ('device', models.CharField(blank=True, help_text='What the browser calls itself', max_length=200)),
                ('address', models.CharField(blank=True, max_length=45)),
                ('by_digits', models.BooleanField(default=False)),
                ('began_at', models.DateTimeField(auto_now_add=True)),
                ('seen_at', models.DateTimeField(help_text='To some minutes')),
            ],
        ),
        migrations.AddField(
            model_name='shop',
            name='code',
            field=models.SlugField(db_index=False, default='', help_text='What its staff say when they sign in on a shared server', max_length=40),
            preserve_default=False,
        ),
        migrations.RunPython(_give_codes, migrations.RunPython.noop),
        migrations.AlterField(
            model_name='shop',
            name='code',
            field=models.SlugField(help_text='What its staff say when they sign in on a shared server', max_length=40, unique=True),
        ),
        migrations.CreateModel(
            name='PasswordLetter',
            fields=[
                ('person', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to=settings.AUTH_USER_MODEL)),
                ('at', models.DateTimeField()),
            ],
        ),
        migrations.AlterField(
            model_name='user',
            name='username',
            field=models.CharField(max_length=150, validators=[django.contrib.auth.validators.UnicodeUsernameValidator()]),
        ),
        migrations.AddConstraint(
            model_name='user',
            constraint=models.UniqueConstraint(django.db.models.functions.text.Lower('username'), models.F('shop'), name='user_name_once_in_shop'),
        ),
        migrations.AddField(
            model_name='signedin',
            name='person',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddIndex(
            model_name='signedin',
            index=models.Index(fields=['person', '-seen_at'], name='accounts_si_person__bc4a70_idx'),
        ),
    ]
