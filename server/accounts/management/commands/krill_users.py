from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from accounts import people


class Command(BaseCommand):
    help = "People who may sign in; there is no mail service: a new password is printed once, hand it on"

    def add_arguments(self, parser: ArgumentParser) -> None:
        actions = parser.add_subparsers(dest="action", required=True)
        actions.add_parser("list")
        for action in ("add", "reset", "deactivate", "activate"):
            actions.add_parser(action).add_argument("name")
        actions.add_parser("import").add_argument("file", type=Path, help="CSV with a column 'name'")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            for line in _done(options):
                self.stdout.write(line)
        except people.PersonRefused as refused:
            raise CommandError(str(refused)) from None
        except (OSError, UnicodeDecodeError) as error:
            raise CommandError(f"{options['file']} cannot be read: {error}") from None


def _done(options: dict[str, Any]) -> list[str]:
    """What to print when it is done."""
    match options["action"]:
        case "list":
            return [
                f"{one.name}  {'active' if one.active else 'kept out'}  builds: {one.builds}  last seen: {one.seen}"
                for one in people.listed()
            ]
        case "add":
            return [f"{options['name']}: {people.add(options['name'])}"]
        case "reset":
            return [f"{options['name']}: {people.reset(options['name'])}"]
        case "import":
            text = options["file"].read_text(encoding="utf-8-sig")
            return [f"{name}: {password}" for name, password in people.read_table(text)]
        case action:
            people.set_active(options["name"], active=action == "activate")
            return [f"{options['name']} is {'active' if action == 'activate' else 'kept out'}"]
