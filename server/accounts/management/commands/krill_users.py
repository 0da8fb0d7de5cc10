from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from accounts import links, people


class Command(BaseCommand):
    help = "People who may sign in; there is no mail service: a new password is printed once, hand it on"

    def add_arguments(self, parser: ArgumentParser) -> None:
        actions = parser.add_subparsers(dest="action", required=True)
        actions.add_parser("list")
        for action in ("add", "reset", "deactivate", "activate", "administrator", "no-administrator"):
            actions.add_parser(action).add_argument("name")
        invited = actions.add_parser("invite", help="a link by which somebody new chooses name and password")
        invited.add_argument("note", nargs="?", default="", help="for whom")
        invited.add_argument("--at", default="https://…", metavar="ADDRESS", help="where browsers reach Krill")
        group = actions.add_parser("group", help="a group with exactly these members")
        group.add_argument("name")
        group.add_argument("members", nargs="*")
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
                f"{one.name}  {'active' if one.active else 'kept out'}{'  administrator' if one.administrator else ''}"
                f"  builds: {one.builds}  last seen: {one.seen}"
                for one in people.listed()
            ]
        case "add":
            return [f"{options['name']}: {people.add(options['name'])}"]
        case "reset":
            return [f"{options['name']}: {people.reset(options['name'])}"]
        case "import":
            text = options["file"].read_text(encoding="utf-8-sig")
            return [f"{name}: {password}" for name, password in people.read_table(text)]
        case "invite":
            token = links.make(None, note=options["note"])
            return [f"{options['at'].rstrip('/')}/#/link/{token}  good once, for {links.GOOD_FOR.days} days"]
        case "group":
            group = people.set_group(options["name"], options["members"])
            return [f"{group.name}: {', '.join(options['members']) or 'nobody'}"]
        case "administrator" | "no-administrator" as action:
            people.change(people.known(options["name"]), administrator=action == "administrator")
            return [f"{options['name']} is {'an' if action == 'administrator' else 'no'} administrator"]
        case action:
            people.set_active(options["name"], active=action == "activate")
            return [f"{options['name']} is {'active' if action == 'activate' else 'kept out'}"]
