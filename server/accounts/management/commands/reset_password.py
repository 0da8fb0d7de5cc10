import secrets
from argparse import ArgumentParser
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError


class Command(BaseCommand):
    help = "Give a user a new random password and print it (there is no mail service)"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("username")
        parser.add_argument("--create", action="store_true", help="make the user where there is none")

    def handle(self, *args: Any, **options: Any) -> None:
        user = User.objects.filter(username=options["username"]).first()
        if user is None and not options["create"]:
            raise CommandError(f"there is no user '{options['username']}'; --create makes one")
        user = user or User(username=options["username"])
        password = secrets.token_urlsafe(12)
        user.set_password(password)
        user.save()
        self.stdout.write(f"{user.username}: {password}")
