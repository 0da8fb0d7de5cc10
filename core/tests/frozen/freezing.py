"""Frozen figures as files: read, held against fresh answers, written. ``bin/freeze`` writes; the tests only compare."""

import json
import sys
from pathlib import Path
from typing import Any

from frozen.answers import LOGS, frozen_answers, machine_names

HERE = Path(__file__).parent

RELATIVE, ABSOLUTE = 1e-6, 1e-6
Json = dict[str, Any]


def names() -> list[str]:
    return [*machine_names(), *LOGS]


def file_of(name: str) -> Path:
    return HERE / "figures" / f"{name}.json"


def frozen(name: str) -> Json:
    found: Json = json.loads(file_of(name).read_text(encoding="utf-8"))
    return found


def same(a: Any, b: Any) -> bool:
    """Equal but for what another machine's arithmetic may do: a relative 1e-6, an absolute 1e-6 near zero."""
    if isinstance(a, list) and isinstance(b, list):
        return len(a) == len(b) and all(same(x, y) for x, y in zip(a, b, strict=True))
    if isinstance(a, bool) or isinstance(b, bool) or not isinstance(a, int | float) or not isinstance(b, int | float):
        return type(a) is type(b) and a == b
    return abs(a - b) <= max(ABSOLUTE, RELATIVE * max(abs(a), abs(b)))


def moved(old: Json, new: Json) -> list[str]:
    """A line for each figure that moved, came or went."""
    lines = []
    for path in dict.fromkeys([*old, *new]):
        if path not in new:
            lines.append(f"- {path}: {old[path]}")
        elif path not in old:
            lines.append(f"+ {path}: {new[path]}")
        elif not same(old[path], new[path]):
            lines.append(f"! {path}: {old[path]} -> {new[path]}")
    return lines


def freeze(name: str) -> int:
    """Write what moved; what did not keeps its spelling and its line. Returns how many lines changed."""
    new = frozen_answers(name)
    old = frozen(name) if file_of(name).exists() else {}
    order = [path for path in dict.fromkeys([*old, *new]) if path in new]
    kept = {path: old[path] if path in old and same(old[path], new[path]) else new[path] for path in order}
    lines = ",\n".join(
        f"{json.dumps(path, ensure_ascii=False)}: {json.dumps(value, ensure_ascii=False)}"
        for path, value in kept.items()
    )
    file_of(name).write_text(f"{{\n{lines}\n}}\n", encoding="utf-8")
    return len(moved(old, new))


if __name__ == "__main__":
    for each in sys.argv[1:] or names():
        sys.stdout.write(f"{each}: {freeze(each)} figures moved\n")
