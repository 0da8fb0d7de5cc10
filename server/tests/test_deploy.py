"""The files that a deployment starts from."""

import shutil
import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
UNITS = [*(ROOT / "deploy").glob("*.service"), *(ROOT / "deploy").glob("*.timer")]


@pytest.mark.skipif(shutil.which("systemd-analyze") is None, reason="systemd is not installed")
def test_the_unit_files_are_sound(tmp_path):
    for unit in UNITS:
        (tmp_path / unit.name).write_text(unit.read_text().replace("/srv/krill", str(ROOT)))
    found = subprocess.run(
        ["systemd-analyze", "verify", *map(str, sorted(tmp_path.iterdir()))],
        capture_output=True,
        text=True,
        check=False,
    )
    assert found.returncode == 0, found.stderr
    assert "krill" not in found.stderr


def test_the_proxy_says_what_krill_believes():
    said = (ROOT / "deploy" / "nginx.conf").read_text()
    assert "proxy_set_header X-Forwarded-Proto $scheme;" in said
    assert "proxy_set_header Host              $host;" in said


@pytest.mark.parametrize("name", ["serve", "backup", "restore", "users", "attack"])
def test_commands_say_what_is_wrong(name):
    asked = {
        "serve": (["--port", "0"], "allowed: 1 to 65535"),
        "backup": (["--keep", "0"], "at least 1"),
        "restore": (["nowhere.dump"], "there is no file nowhere.dump"),
        "users": (["add", "a b"], "is no name"),
        "attack": (["never"], "no number of times"),
    }
    arguments, says = asked[name]
    if name in ("backup", "restore", "users") and not (ROOT / ".venv" / "app" / "bin" / "python").exists():
        pytest.skip("the application's own packages are not installed here")
    found = subprocess.run([ROOT / "bin" / name, *arguments], capture_output=True, text=True, check=False)
    assert found.returncode != 0
    assert says in found.stderr
    assert "Traceback" not in found.stderr
