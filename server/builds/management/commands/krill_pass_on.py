from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from accounts import people
from builds.actions import pass_all_on


class Command(BaseCommand):
    help = "Pass every build of somebody on to somebody else, as when a person has left"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("giver")
        parser.add_argument("taker")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            giver, taker = people.known(options["giver"]), people.known(options["taker"])
        except people.PersonRefused as refused:
            raise CommandError(str(refused)) from None
        if giver == taker:
            raise CommandError("the two are one person")
        self.stdout.write(f"{pass_all_on(giver, taker)} builds of {giver.username} are {taker.username}'s now")
