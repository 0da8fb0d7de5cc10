"""Some hundreds of requests made from the API's own schema: a part of what bin/attack does."""

import os
import subprocess
import sys
from pathlib import Path
from typing import Any

from conftest import PASSWORD

ATTACK = Path(__file__).resolve().parents[1] / "schema_attack.py"


def test_no_request_of_the_schema_is_answered_otherwise_than_it_says(live_server: Any, person: Any, tmp_path: Path):
    people = tmp_path / "people"
    people.write_text(f"{person.username}: {PASSWORD}\n")
    told = os.environ | {"KRILL_ADDRESS": live_server.url, "KRILL_PEOPLE": str(people)}
    attack = subprocess.run([sys.executable, ATTACK, "2", "7"], env=told, capture_output=True, text=True, check=False)
    assert attack.returncode == 0, attack.stdout[-4000:]
    assert attack.stdout.count("generated") == 2, attack.stdout[-2000:]
