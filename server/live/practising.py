"""A practice run: the simulated bench as a process of its own, which sends to Krill as any logger does."""

import os
import secrets
import subprocess
import sys
from pathlib import Path
from typing import Any, Final

from django.conf import settings
from django.contrib.auth.models import User

import krill
from krill.document.build import Build
from krill.simulated_bench.faults import faults_of
from live.answers import NONE
from live.models import LiveRun
from wire.faults import ApiFault
from wire.turns import worked_out

#: benches of one person at a time
MOST_BENCHES: Final = 3
#: a fault of the bench's own choice comes so many minutes after the load, between these shares of the test
BETWEEN: Final = (0.15, 0.5)
_ROOM_C: Final = 22.0
#: benches that this process has begun and not yet seen end
_begun: list[subprocess.Popen[bytes]] = []


def planned(build: Build, data: Any) -> dict[str, Any]:
    """What the bench will run. ApiFault where the fault cannot befall this build."""
    possible = worked_out(faults_of, build, data.workload)
    kind, hidden = data.fault, data.fault == "hidden"
    if hidden:
        kind = secrets.choice([NONE, *possible])
    if kind != NONE and kind not in possible:
        raise ApiFault(422, "fault", f"'{kind}' cannot befall this build", ", ".join(possible))
    at = data.at_min
    if at is None:
        at = round(data.minutes * (BETWEEN[0] + (BETWEEN[1] - BETWEEN[0]) * secrets.randbelow(1000) / 1000.0), 1)
    seed = secrets.randbelow(9999) if data.seed is None else data.seed
    on = secrets.choice(possible[kind]) if kind != NONE and hidden else (possible[kind][0] if kind != NONE else "")
    return {"fault": kind, "on": on, "at_min": at, "speed": data.speed, "hidden": hidden, "seed": seed}


def must_have_a_bench_left(user: User) -> None:
    """ApiFault where somebody's benches all run; one whose run has ended stops by itself."""
    running = LiveRun.objects.filter(author=user, ended=None).exclude(practice=None).count()
    if running >= MOST_BENCHES:
        raise ApiFault(422, "live", f"{running} practice runs are going on", "end or discard one first")


def begin_bench(live: LiveRun, token: str, port: str) -> None:
    """Begin the process; it ends with its plan, or once the run takes nothing any more."""
    told = live.practice or {}
    command = [
        sys.executable, "-m", "krill", "bench", "-", "--workload", live.workload, "--minutes", f"{live.minutes:g}",
        "--room", f"{_ROOM_C if live.room_c is None else live.room_c:g}", "--seed", str(told["seed"]),
        "--speed", f"{told['speed']:g}", "--live", f"http://127.0.0.1:{port}/api/live/{live.pk}",
    ]  # fmt: skip
    if told["fault"] != NONE:
        on = f":{told['on']}" if told["on"] else ""
        command += ["--fault", f"{told['fault']}{on}@{told['at_min']:g}min"]
    core = Path(krill.__file__).parents[1]
    environment = {
        "PATH": os.defpath,
        "LANG": "C.UTF-8",
        "PYTHONPATH": f"{core}:{core.parent / 'logger'}",
        "OMP_NUM_THREADS": "1",
        "KRILL_TOKEN": token,
        # behind a proxy Krill answers plain requests of this machine as if they had come through it
        "KRILL_FORWARDED": "https" if settings.HTTPS else "",
    }
    process = subprocess.Popen(  # noqa: S603 - this interpreter and a module of Krill
        command,
        stdin=subprocess.PIPE,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        env=environment,
        start_new_session=True,
    )
    assert process.stdin is not None
    process.stdin.write(live.revision.text.encode())
    process.stdin.close()
    _begun[:] = [one for one in [*_begun, process] if one.poll() is None]
