"""Settings that come from the environment, each checked at the start: a sentence says what is wrong and what is allowed."""

import os
import re
from dataclasses import dataclass
from typing import Final

from django.core.exceptions import ImproperlyConfigured

#: shorter secrets can be guessed
SHORTEST_SECRET: Final = 50
LEAST_SIGNS: Final = 5
#: how much one person may have: least that can be set, and what it is where nothing is set
_MOST: Final = {
    "KRILL_MOST_BUILDS": (1, 500),
    "KRILL_MOST_RUNS": (1, 5000),
    "KRILL_MOST_MB": (50, 5000),
    "KRILL_MOST_STUDIES": (1, 6),
}
_HOST: Final = re.compile(r"(\.?[a-z0-9]([a-z0-9-]*[a-z0-9])?(\.[a-z0-9]([a-z0-9-]*[a-z0-9])?)*|\[[0-9a-f:]+\])", re.I)


@dataclass(frozen=True)
class Environment:
    """The variables KRILL_..., as docs/deploy.md tells them."""

    secret: str
    hosts: list[str]
    https: bool
    proxies: int
    log: bool = False
    most_builds: int = _MOST["KRILL_MOST_BUILDS"][1]
    most_runs: int = _MOST["KRILL_MOST_RUNS"][1]
    most_mb: int = _MOST["KRILL_MOST_MB"][1]
    most_studies: int = _MOST["KRILL_MOST_STUDIES"][1]

    @property
    def origins(self) -> list[str]:
        """Where a browser may come from over HTTPS; a host that begins with a dot stands for all below it."""
        return [f"https://{'*' if host.startswith('.') else ''}{host}" for host in self.hosts] if self.https else []

    @classmethod
    def read(cls) -> "Environment":
        """ImproperlyConfigured with every variable that cannot be."""
        secret = os.environ.get("KRILL_SECRET", "")
        hosts = [host.strip() for host in os.environ.get("KRILL_HOSTS", "127.0.0.1,localhost").split(",")]
        https, proxies = os.environ.get("KRILL_HTTPS", "0") or "0", os.environ.get("KRILL_PROXIES", "0") or "0"
        wrong = []
        if secret and (len(secret) < SHORTEST_SECRET or len(set(secret)) < LEAST_SIGNS):
            wrong.append(
                f"KRILL_SECRET has {len(secret)} characters, {len(set(secret))} of them unlike; "
                f"at least {SHORTEST_SECRET} at random are needed"
            )
        wrong += [
            f"KRILL_HOSTS holds '{host}'; allowed are names and addresses without scheme or port, parted by commas"
            for host in hosts
            if not _HOST.fullmatch(host)
        ]
        if https not in ("0", "1"):
            wrong.append(f"KRILL_HTTPS is '{https}'; allowed: 1 behind a proxy that speaks HTTPS, else 0")
        log = os.environ.get("KRILL_LOG", "0") or "0"
        if log not in ("0", "1"):
            wrong.append(f"KRILL_LOG is '{log}'; allowed: 1 for a line of JSON a request, else 0")
        if not proxies.isdigit() or int(proxies) > 9:
            wrong.append(f"KRILL_PROXIES is '{proxies}'; allowed: how many proxies stand before Krill, 0 to 9")
        most = {}
        for name, (least, usual) in _MOST.items():
            told = os.environ.get(name, "") or str(usual)
            if not told.isdigit() or not least <= int(told) <= 10**9:
                wrong.append(f"{name} is '{told}'; allowed: a whole number from {least}")
                told = str(usual)
            most[name.removeprefix("KRILL_").lower()] = int(told)
        if wrong:
            raise ImproperlyConfigured("; ".join(wrong))
        return cls(secret, hosts, https == "1", int(proxies), log == "1", **most)
