"""What a script pays for before it asks anything: packages that take long to load come when they are needed."""

import subprocess
import sys

import pytest

SLOW = ("scipy.interpolate", "scipy.special", "scipy.stats", "scipy.optimize", "polars")


@pytest.mark.parametrize(
    "module", ["krill.cli", "krill.document.reading", "krill.prediction.predict", "krill.recipes.book"]
)
def test_slow_packages_are_not_loaded_with(module):
    code = f"import sys, {module}; print(*[name for name in {SLOW!r} if name in sys.modules])"
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert found.stdout.split() == []
