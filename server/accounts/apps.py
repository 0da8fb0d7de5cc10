from typing import Any

from django.apps import AppConfig
from django.contrib.auth.signals import user_logged_in


class AccountsConfig(AppConfig):
    name = "accounts"

    def ready(self) -> None:
        user_logged_in.connect(_signed_in, dispatch_uid="accounts.sessions")


def _signed_in(request: Any, user: Any, **_: Any) -> None:
    from accounts import sessions  # models are ready by now

    sessions.begin(request, user)
