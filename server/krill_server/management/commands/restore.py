from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from krill_server.backup import BackupFailed, restore


class Command(BaseCommand):
    help = "Put a backup in place of the database, which stays beside it under another name"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--while-serving", action="store_true", help="end the connections that are open")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            old = restore(options["file"], while_serving=options["while_serving"])
        except BackupFailed as failed:
            raise CommandError(str(failed)) from None
        self.stdout.write(f"restored; what was there stays as database {old}, drop it when you do not need it")
