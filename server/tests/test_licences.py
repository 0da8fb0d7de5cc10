"""The list of licences is of the packages that are locked."""

import re
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


def plain(name: str) -> str:
    return re.sub(r"[-_.]+", "-", name).lower()


def test_every_locked_package_of_the_server_is_listed_with_its_version_and_licence():
    locked = {
        plain(name): version
        for name, version in re.findall(r"^([\w.-]+)==(\S+)", (ROOT / "requirements/app.txt").read_text(), re.M)
    }
    server = (ROOT / "docs/licences.md").read_text().split("## Front end")[0]
    rows = re.findall(r"^\| ([\w.-]+) \| (\S+) \| (.+) \|$", server, re.M)
    listed = {plain(name): version for name, version, _ in rows if name not in ("Package", "---")}
    here = {name: version for name, version in locked.items() if name in listed}  # the rest is for other systems
    assert here == listed
    assert set(locked) - set(listed) <= {"colorama", "tzdata", "backports-zoneinfo"}
    assert not [name for name, _, licence in rows if licence.strip() in ("", "not told")]
