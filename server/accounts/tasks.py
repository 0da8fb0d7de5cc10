"""Every night: what nobody needs any more of signing in."""

from typing import Final

from django.core.management import call_command
from procrastinate.contrib.django import app

from accounts.sessions import forget_ended

#: wrong passwords are remembered for so many days
DAYS: Final = 30


@app.periodic(cron="17 3 * * *")
@app.task(queue="nightly")
def tidy(timestamp: int) -> None:
    """Expired sessions and old wrong passwords are cleared; ``timestamp`` is the night's."""
    call_command("clearsessions")
    forget_ended()
    call_command("axes_reset_logs", age=DAYS, verbosity=0)
