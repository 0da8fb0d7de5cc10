"""Every registered law says what its arguments are, and works a line out whose value holds."""

import doctest
import importlib
import inspect
import pkgutil

import pytest

import krill.physics
from krill.physics.correlation import REGISTRY

MODULES = [
    importlib.import_module(f"krill.physics.{found.name}") for found in pkgutil.iter_modules(krill.physics.__path__)
]
OWN = sorted(name for name, entry in REGISTRY.items() if entry.function.__module__.startswith("krill.physics."))


@pytest.mark.parametrize("module", MODULES, ids=lambda module: module.__name__.rsplit(".", 1)[1])
def test_worked_lines_hold(module):
    assert doctest.testmod(module).failed == 0


@pytest.mark.parametrize("name", OWN)
def test_a_law_names_each_argument_and_works_a_line_out(name):
    function = REGISTRY[name].function
    said = inspect.getdoc(function) or ""
    assert f"{name}(" in said.split(">>>", 1)[1]
    for argument in inspect.signature(function).parameters:
        assert argument == "axis" or f"``{argument}``" in said
