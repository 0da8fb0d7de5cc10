"""Kills Krill again and again under a stream of edits, readings, revisions, logs and studies: nothing acknowledged may be lost.

    .venv/dev/bin/python tests/kill_rounds.py [ROUNDS]        (bin/attack runs it; it keeps a database of its own)

Each round ends one process with SIGKILL, or restarts the database cleanly, while people work. In the end every edit, run and
revision that was acknowledged is there, every study is over, and after each round all served again within SERVING_S.
"""

import http.client
import json
import os
import random
import signal
import socket
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from http.cookiejar import CookieJar
from itertools import chain
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
DATABASE = "krill_kill_rounds"
SERVING_S = 10.0
PEOPLE = 2
#: the cluster that is used: --fast for the throw-away one of the tests
CLUSTER = [os.environ["KRILL_CLUSTER"]] if os.environ.get("KRILL_CLUSTER") else []
SOLVERS = ROOT / ".run/kill-rounds.socket"
#: behind the newest draft, nothing to keep or no revision yet or the solver gone, the database gone
MAY_ANSWER = (409, 422, 503)
LOG = "Time [s],CPU Package [°C]\n" + "\n".join(f"{t},{40 + t % 9}" for t in range(120))
QUESTION = {
    "vary": [{"address": "movers/fans", "options": [{"value": round(0.3 + 0.01 * i, 2)} for i in range(60)]}],
    "demands": {"margins": [{"workload": "both", "at_least_k": 5}]},
}


def environment() -> dict[str, str]:
    lines = subprocess.run(
        [ROOT / "bin/pg", "env", *CLUSTER], capture_output=True, text=True, check=True
    ).stdout.splitlines()
    told = dict(line.removeprefix("export ").split("=", 1) for line in lines)
    return (
        os.environ
        | told
        | {"PGDATABASE": DATABASE, "KRILL_SOLVERS": str(SOLVERS), "PYTHONPATH": f"{ROOT / 'server'}:{ROOT / 'core'}"}
    )


def say(what: str) -> None:
    sys.stdout.write(what + "\n")
    sys.stdout.flush()


class Person:
    """Somebody who edits, keeps, reads and asks, and writes down all that was acknowledged."""

    def __init__(self, address: str, name: str, password: str) -> None:
        self.address, self.jar = address, CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self.ask("GET", "/api/session")
        self.ask("POST", "/api/login", {"username": name, "password": password})
        made = self.ask("POST", "/api/builds/recipe", {"recipe": "water_loop", "name": f"of {name}"})
        self.build, self.sequence = made["id"], made["sequence"]
        self.notes, self.runs, self.revisions, self.studies = 0, set[str](), 0, set[str]()
        self.failed, self.wrong = 0, list[str]()

    def ask(self, method: str, path: str, body: Any = None, files: bytes | None = None) -> Any:
        token = next((cookie.value for cookie in self.jar if cookie.name == "csrftoken"), "") or ""
        data, kind = (json.dumps(body).encode(), "application/json") if body is not None else (None, "")
        if files is not None:
            data, kind = files, "multipart/form-data; boundary=krill"
        request = urllib.request.Request(
            self.address + path, data, {"X-CSRFToken": token, "Content-Type": kind}, method=method
        )
        with self.opener.open(request, timeout=30) as answer:
            return json.loads(answer.read() or b"null")

    def work(self, until: threading.Event, chance: random.Random) -> None:
        while not until.is_set():
            try:
                self._do_something(chance.random())
            except (OSError, http.client.HTTPException) as error:  # not acknowledged: it may be there or not
                if isinstance(error, urllib.error.HTTPError) and error.code not in MAY_ANSWER:
                    self.wrong.append(f"answered {error.code}: {error.read()[:200]!r}")
                self.failed += 1
                self._look()
                time.sleep(0.1)

    def _look(self) -> None:
        """Where the draft stands, as a page asks after no answer came."""
        try:
            self.sequence = self.ask("GET", f"/api/builds/{self.build}")["sequence"]
        except (OSError, http.client.HTTPException):
            time.sleep(0.1)

    def _do_something(self, chance: float) -> None:
        if chance < 0.1:
            self.ask("POST", f"/api/builds/{self.build}/outlook", {"workload": "both", "samples": 100})
        elif chance < 0.7:
            wanted = self.notes + 1
            patch = [{"op": "add", "path": "/notes", "value": str(wanted)}]
            body = {"base": self.sequence, "patch": patch, "label": f"note {wanted}", "merge": False}
            self.sequence = self.ask("PATCH", f"/api/builds/{self.build}/draft", body)["sequence"]
            self.notes = wanted
        elif chance < 0.8:
            self.ask("POST", f"/api/builds/{self.build}/revisions", {"why": "kept"})
            self.revisions += 1
        elif chance < 0.88:
            reading = {"minute": 60, "role": "processor-core/temperature", "value": 70}
            body = {"workload": "both", "readings": [reading]}
            self.runs.add(self.ask("POST", f"/api/builds/{self.build}/runs/readings", body)["id"])
        elif chance < 0.95:
            form = (
                f'--krill\r\nContent-Disposition: form-data; name="workload"\r\n\r\nboth\r\n{_file(LOG)}--krill--\r\n'
            )
            self.runs.add(self.ask("POST", f"/api/builds/{self.build}/runs/log", files=form.encode())["id"])
        else:
            study = self.ask("POST", f"/api/builds/{self.build}/studies", {"question": QUESTION, "name": ""})
            self.studies.add(study["id"])

    def lost(self) -> list[str]:
        """What was acknowledged and is not there."""
        draft = self.ask("GET", f"/api/builds/{self.build}")
        runs = {run["id"] for run in self.ask("GET", f"/api/builds/{self.build}/runs")}
        revisions = len(self.ask("GET", f"/api/builds/{self.build}/revisions"))
        studies = {study["id"]: study["state"] for study in self.ask("GET", f"/api/builds/{self.build}/studies")}
        missing = [f"note {self.notes}: {draft['document'].get('notes')}"] if _note(draft) < self.notes else []
        missing += [f"run {run}" for run in self.runs - runs]
        missing += [f"{self.revisions} revisions: {revisions}"] if revisions < self.revisions else []
        kept = self.studies & studies.keys()  # only the newest are kept
        return missing + [f"study {one} is {studies[one]}" for one in kept if studies[one] != "done"]


def _file(text: str) -> str:
    head = 'Content-Disposition: form-data; name="file"; filename="a.csv"\r\nContent-Type: text/csv'
    return f"--krill\r\n{head}\r\n\r\n{text}\r\n"


def _note(draft: Any) -> int:
    return int(draft["document"].get("notes") or 0)


KINDS = {
    "supervisor": "krill_server.supervisor",
    "reader": "krill.logs.apart",
    "solver": "krill.solver",
    "worker": "manage.py work",
    "server": "granian",
}


def processes() -> dict[str, list[int]]:
    """Numbers of Krill's processes on this database, by what they are."""
    found: dict[str, list[int]] = {kind: [] for kind in KINDS}
    for number in (int(entry.name) for entry in Path("/proc").iterdir() if entry.name.isdigit()):
        try:
            command = Path(f"/proc/{number}/cmdline").read_bytes().replace(b"\0", b" ").decode(errors="replace")
            kind = next((kind for kind, says in KINDS.items() if says in command), None)
            # bash stands in for the service manager; a reader is told nothing of the server, which is its parent
            if (
                kind is None
                or command.startswith("bash")
                or not _is_ours(_parent(number) if kind == "reader" else number)
            ):
                continue
        except OSError:
            continue
        found[kind].append(number)
    return found


def _is_ours(number: int) -> bool:
    return f"PGDATABASE={DATABASE}".encode() in Path(f"/proc/{number}/environ").read_bytes()


def _parent(number: int) -> int:
    return int(Path(f"/proc/{number}/stat").read_text().rsplit(")", 1)[1].split()[1])


def strike(kind: str, chance: random.Random) -> None:
    if kind == "restart":
        for action in ("stop", "start"):
            subprocess.run([ROOT / "bin/pg", action, *CLUSTER], check=False, capture_output=True)
    elif kind == "postmaster":
        os.kill(int((ROOT / ".run/pg/data/postmaster.pid").read_text().split()[0]), signal.SIGKILL)
    elif kind == "all":
        for number in chain(*processes().values()):
            _kill(number)
    elif numbers := processes()[kind]:
        _kill(chance.choice(numbers))


def _kill(number: int) -> None:
    try:
        os.kill(number, signal.SIGKILL)
    except ProcessLookupError:
        return


def seconds_until_serving(address: str) -> float:
    began = time.monotonic()
    while time.monotonic() - began < 60:
        try:
            with urllib.request.urlopen(address + "/healthz", timeout=5) as answer:
                if answer.status == 200:
                    return time.monotonic() - began
        except OSError:
            time.sleep(0.05)
    return float("inf")


def serve(port: int, told: dict[str, str]) -> subprocess.Popen[bytes]:
    """What bin/serve begins, on the database of this test; begun again as a service manager would."""
    bin_ = Path(sys.executable).parent
    script = (
        f"while :; do {sys.executable} -m krill_server.supervisor 'database=python3 {ROOT}/bin/pg keep {' '.join(CLUSTER)}' "
        f"'server={bin_}/granian --interface wsgi --host 127.0.0.1 --port {port} --workers 1 --blocking-threads 4 "
        "--no-ws --log-level critical krill_server.wsgi:application' "
        f"'solvers={sys.executable} -m krill.solver {SOLVERS} 1' "
        f"'worker={sys.executable} manage.py work --stalled-after 3'; sleep 0.2; done"
    )
    return subprocess.Popen(
        ["bash", "-c", script], cwd=ROOT / "server", env=told, start_new_session=True, stderr=subprocess.DEVNULL
    )


def main(rounds: int) -> int:
    chance = random.Random(1)
    subprocess.run([ROOT / "bin/pg", "start", *CLUSTER], check=True, capture_output=True)
    told = environment()
    subprocess.run(["dropdb", "--if-exists", "--force", DATABASE], check=True, env=told)
    subprocess.run(["createdb", DATABASE], check=True, env=told)
    manage = [sys.executable, "manage.py"]
    subprocess.run([*manage, "migrate", "--verbosity", "0"], cwd=ROOT / "server", env=told, check=True)
    added = [
        subprocess.run(
            [*manage, "krill_users", "add", f"p{n}"],
            cwd=ROOT / "server",
            env=told,
            check=True,
            capture_output=True,
            text=True,
        ).stdout.strip()
        for n in range(PEOPLE)
    ]
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    address, service = f"http://127.0.0.1:{port}", serve(port, told)
    try:
        say(f"serving after {seconds_until_serving(address):.1f} s")
        people = [Person(address, *line.split(": ")) for line in added]
        over = threading.Event()
        threads = [
            threading.Thread(target=person.work, args=(over, random.Random(n))) for n, person in enumerate(people)
        ]
        for thread in threads:
            thread.start()
        slow = _strike_often(rounds, address, chance)
        over.set()
        for thread in threads:
            thread.join()
        return _told(people, slow)
    finally:
        os.killpg(service.pid, signal.SIGKILL)
        for number in chain(*processes().values()):
            _kill(number)
        subprocess.run([ROOT / "bin/pg", "start", *CLUSTER], check=False, capture_output=True)
        subprocess.run(["dropdb", "--if-exists", "--force", DATABASE], check=False, env=told)


def _strike_often(rounds: int, address: str, chance: random.Random) -> list[str]:
    """One strike a round, each kind in turn; what took longer than it may."""
    kinds = ("server", "worker", "reader", "solver", "postmaster", "restart", "supervisor", "all")
    slow = []
    for n in range(rounds):
        kind = kinds[n % len(kinds)]
        time.sleep(0.5 + chance.random())
        strike(kind, chance)
        time.sleep(0.2)
        taken = seconds_until_serving(address)
        say(f"{n + 1:3d} {kind:10s} serving again after {taken:.1f} s")
        if taken > SERVING_S:
            slow.append(f"round {n + 1}: {kind} took {taken:.1f} s")
    return slow


def _told(people: list[Person], wrong: list[str]) -> int:
    for _ in range(120):
        lost = [what for person in people for what in person.lost()]
        if not any("study" in what for what in lost):
            break
        time.sleep(1)
    for person in people:
        say(
            f"{person.notes} edits, {len(person.runs)} runs, {person.revisions} revisions, {len(person.studies)} studies "
            f"acknowledged; {person.failed} not answered"
        )
    wrong = [*lost, *wrong, *(what for person in people for what in person.wrong)]
    for what in wrong:
        say(f"WRONG: {what}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 60))
