"""The archive that runs on a machine without Node: everything that serving needs, and nothing else."""

import os
import subprocess
import sys
import tarfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


def test_the_archive_holds_what_serving_needs(tmp_path: Path):
    packed = tmp_path / "krill.tar.gz"
    alone = os.environ | {"KRILL_NO_SBOM": "1"}
    subprocess.run([ROOT / "bin/package", packed], check=True, env=alone, capture_output=True)
    with tarfile.open(packed) as archive:
        names = archive.getnames()
        archive.extractall(tmp_path, filter="data")
    (into,) = [path for path in tmp_path.iterdir() if path.is_dir()]
    tools = {path.name for path in (into / "bin").iterdir()}
    assert tools == {"serve", "pg", "install", "users", "manage", "backup", "restore"}
    assert (into / "web/dist/index.html").exists()
    assert not [name for name in names if "/tests/" in name or "node_modules" in name or name.endswith(".pyc")]
    told = {name: value for name, value in os.environ.items() if not name.startswith("DJANGO_")}
    from_archive = {
        "PYTHONPATH": f"{into / 'server'}:{into / 'core'}",
        "KRILL_SECRET": "a-secret-of-" + "many-signs-" * 5,
    }
    checked = subprocess.run(
        [sys.executable, "manage.py", "check", "--deploy"],
        cwd=into / "server",
        env=told | from_archive | {"KRILL_HTTPS": "1", "KRILL_HOSTS": "krill.example"},
        capture_output=True,
        text=True,
        check=False,
    )
    assert checked.returncode == 0, checked.stderr
    asked = "import krill, runs.actions; print(krill.__file__, runs.actions.__file__)"
    code = f"import django; django.setup(); {asked}"
    where = subprocess.run(
        [sys.executable, "-c", code],
        cwd=into / "server",
        env=told | from_archive | {"DJANGO_SETTINGS_MODULE": "krill_server.settings"},
        capture_output=True,
        text=True,
        check=True,
    ).stdout.split()
    assert all(path.startswith(str(into)) for path in where)
