from typing import Any, Final

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from krill_server.backup import BackupFailed, make_backup
from wire.upgrades import must_not_be_newer

#: backups of upgrades that stay
KEPT: Final = 14


def _static_is_old() -> bool:
    """Whether the front end was built after its files were collected."""
    collected, built = settings.STATIC_ROOT / "index.html", settings.DIST / "index.html"
    return not collected.exists() or collected.stat().st_mtime < built.stat().st_mtime


class Command(BaseCommand):
    help = "Everything before the first request: checks, a backup before an upgrade, the upgrade, static files"
    requires_system_checks = []

    def handle(self, *args: Any, **options: Any) -> None:
        if settings.HTTPS:
            call_command("check", tags=["security"], deploy=True, fail_level="WARNING")
        self._upgrade()
        if _static_is_old():
            call_command("collectstatic", interactive=False, clear=True, verbosity=0)

    def _upgrade(self) -> None:
        must_not_be_newer()
        executor = MigrationExecutor(connection)
        if not executor.migration_plan(executor.loader.graph.leaf_nodes()):
            return
        if any(app == "builds" for app, _ in executor.loader.applied_migrations):
            try:
                self.stdout.write(f"backup before the upgrade: {make_backup(settings.RUN / 'backups', KEPT)}")
            except BackupFailed as failed:
                raise CommandError(f"no upgrade without a backup: {failed}") from None
        call_command("migrate", verbosity=0)
