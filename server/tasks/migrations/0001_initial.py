
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('accounts', '0004_life_of_an_account'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Task',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(max_length=40)),
                ('given', models.JSONField()),
                ('done', models.JSONField(default=dict)),
                ('result', models.JSONField(default=dict)),
                ('state', models.CharField(choices=[('waiting', 'waiting'), ('running', 'running'), ('done', 'done'), ('failed', 'failed'), ('cancelled', 'cancelled')], default='waiting', max_length=10)),
                ('progress', models.FloatField(default=0.0)),
                ('tries', models.PositiveSmallIntegerField(default=0)),
                ('taken_by', models.CharField(default='', max_length=80)),
                ('taken_until', models.DateTimeField(null=True)),
                ('run_at', models.DateTimeField()),
                ('created_at', models.DateTimeField(auto_now_add=True)),
                ('ended_at', models.DateTimeField(db_index=True, null=True)),
                ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='tasks', to=settings.AUTH_USER_MODEL)),
                ('shop', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='tasks', to='accounts.shop')),
            ],
            options={
                'indexes': [models.Index(fields=['state', 'run_at'], name='task_queue'), models.Index(fields=['shop', '-created_at'], name='task_list')],
            },
        ),
    ]
