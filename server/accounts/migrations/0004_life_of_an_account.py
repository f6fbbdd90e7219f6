
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0003_sign_in_tries'),
    ]

    operations = [
        migrations.AddField(
            model_name='person',
            name='device_key',
            field=models.CharField(db_default='', default='', max_length=44),
        ),
        migrations.AddField(
            model_name='shop',
            name='shortest_password',
            field=models.PositiveSmallIntegerField(db_default=15, default=15),
        ),
        migrations.AddField(
            model_name="shop",
            name="turn",
            field=models.PositiveBigIntegerField(db_default=0, default=0),
        ),
        migrations.CreateModel(
            name='SignedIn',
            fields=[
                ('session_key', models.CharField(max_length=40, primary_key=True, serialize=False, verbose_name='session key')),
                ('session_data', models.TextField(verbose_name='session data')),
                ('expire_date', models.DateTimeField(db_index=True, verbose_name='expire date')),
                ('started_at', models.DateTimeField()),
                ('device', models.CharField(default='', max_length=80)),
                ('address', models.CharField(default='', max_length=45)),
                ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='sessions', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'verbose_name': 'session',
                'verbose_name_plural': 'sessions',
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Trail',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('what', models.CharField(max_length=60)),
                ('about', models.CharField(default='', max_length=120)),
                ('detail', models.JSONField(default=dict)),
                ('address', models.CharField(default='', max_length=45)),
                ('device', models.CharField(default='', max_length=80)),
                ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, to=settings.AUTH_USER_MODEL)),
                ('shop', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='trail', to='accounts.shop')),
            ],
            options={
                'indexes': [models.Index(fields=['shop', '-at', '-id'], name='trail_list')],
            },
        ),
    ]
