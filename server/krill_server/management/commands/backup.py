from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from krill_server.backup import BackupFailed, make_backup


class Command(BaseCommand):
    help = "Write a checked backup of the whole database"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("folder", nargs="?", type=Path, default=settings.RUN / "backups")
        parser.add_argument("--keep", type=int, default=14, help="how many of the newest stay (14)")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["keep"] < 1:
            raise CommandError("--keep: at least 1")
        try:
            file = make_backup(options["folder"], options["keep"])
        except BackupFailed as failed:
            raise CommandError(str(failed)) from None
        self.stdout.write(f"{file} ({file.stat().st_size / 2**20:.1f} MB)")
