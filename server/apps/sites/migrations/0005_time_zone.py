"""The time zone of every site, by its place."""

from django.db import migrations, models

from apps.sites.time_zone import zone_of


def by_place(apps, schema_editor):
    for site in apps.get_model("sites", "Site").objects.all():
        site.time_zone = zone_of(site.lat, site.lon)
        site.save(update_fields=["time_zone"])


class Migration(migrations.Migration):

    dependencies = [
        ("sites", "0004_file_sections"),
    ]

    operations = [
        migrations.AddField(
            model_name="site",
            name="time_zone",
            field=models.CharField(
                default="", editable=False, help_text="IANA name, by its place", max_length=40
            ),
            preserve_default=False,
        ),
        migrations.RunPython(by_place, migrations.RunPython.noop),
    ]
