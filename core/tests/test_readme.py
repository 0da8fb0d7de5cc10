"""The ten lines of the README do what they say."""

import re
from pathlib import Path

README = Path(__file__).parents[1] / "README.md"


def test_the_script_of_the_readme_runs():
    (code,) = re.findall(r"```python\n(.*?)```", README.read_text(encoding="utf-8"), re.DOTALL)
    names: dict[str, object] = {}
    exec(compile(code, str(README), "exec"), names)
    table = names["table"]
    assert table.columns == ["name", "temperature_c", "margin_k", "status"]
    assert "Processor" in table["name"].to_list()
    assert len(code.splitlines()) <= 12
