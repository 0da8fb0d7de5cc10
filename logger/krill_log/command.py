"""The command ``krill-log``."""

import argparse
import os
import signal
import sys
import threading
from pathlib import Path
from typing import Final, NoReturn

from krill_log.host import Host
from krill_log.logger import Logger
from krill_log.sender import Sender, checked_address
from krill_log.spool import Spool, SpoolTaken

SHORTEST_S, LONGEST_S = 0.05, 600.0
_SPOOL: Final = Path("~/.cache/krill-log")


def parser() -> argparse.ArgumentParser:
    options = argparse.ArgumentParser(
        "krill-log",
        description="Read this machine's temperatures, powers, clocks and speeds; write CSV, send them to Krill.",
    )
    options.add_argument("--interval", type=float, default=1.0, help="seconds between two rows (1)")
    options.add_argument("--csv", type=Path, help="write rows to this file, too")
    options.add_argument("--to", help="address of a live run, as Bench shows it")
    options.add_argument("--token-file", type=Path, help="file with the run's token (else KRILL_TOKEN)")
    options.add_argument("--spool", type=Path, default=_SPOOL, help="where rows wait until they are stored")
    options.add_argument("--once", action="store_true", help="show what would be read, once")
    return options


def say(text: str) -> None:
    print(f"krill-log: {text}", file=sys.stderr)


def command(arguments: list[str] | None = None) -> None:
    """Exit status 2 with a sentence where something asked for cannot be."""
    asked = parser().parse_args(arguments)
    host = Host()
    if asked.once:
        names = host.channels()
        for (name, unit), value in zip(names, host.read(), strict=True):
            print(f"{name:44s}{'' if value is None else f'{value:10.1f}'} {unit}")
        return
    if not SHORTEST_S <= asked.interval <= LONGEST_S:
        _refuse(f"--interval is {asked.interval:g}; allowed: {SHORTEST_S:g} to {LONGEST_S:g} s")
    if asked.csv is None and asked.to is None:
        _refuse("nowhere to write; give --csv FILE, --to ADDRESS, or both")
    sender = None if asked.to is None else _sender(asked)
    ended = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda *_: ended.set())
    say(f"reading every {asked.interval:g} s; Ctrl-C ends it")
    Logger(host, asked.interval, asked.csv, sender, say).run(ended)


def _sender(asked: argparse.Namespace) -> Sender:
    try:
        url = checked_address(asked.to)
    except ValueError as wrong:
        _refuse(str(wrong))
    token = asked.token_file.read_text().strip() if asked.token_file else os.environ.get("KRILL_TOKEN", "")
    if not token:
        _refuse("no token; give --token-file FILE or KRILL_TOKEN")
    folder = asked.spool.expanduser() / url.rpartition("/")[2]
    try:
        spool = Spool(folder)
    except SpoolTaken as taken:
        _refuse(str(taken))
    return Sender(url, token, spool, say)


def _refuse(text: str) -> NoReturn:
    say(text)
    raise SystemExit(2)
