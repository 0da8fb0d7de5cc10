"""Channels of many namings get their roles; what is unsure is asked, not guessed."""

import pytest
from strategies import recipe

from krill.runs.recognise import suggest_roles

BUILD = recipe()
NAMES = [
    ("CPU Package", "°C", "processor-core/temperature"),
    ("CPU (die)", "°C", "processor-core/temperature"),
    ("Core Max", "°C", "processor-core/temperature"),
    ("CPU Package Power", "W", "processor/power"),
    ("GPU Temperature", "°C", "graphics-chip/temperature"),
    ("GPU Memory Junction Temperature", "°C", "graphics-memory/temperature"),
    ("GPU Power", "W", "graphics/power"),
    ("NVMe Drive Temperature", "C", "drive-place/temperature"),
    ("DIMM Temperature", "°C", "memory-place/temperature"),
    ("VRM MOS", "°C", "regulators-place/temperature"),
    ("Coolant In", "°C", "loop-a/coolant_hot"),
    ("Water temp", "°C", "loop-a/coolant_hot"),
    ("Flow", "l/min", "loop-a/flow"),
    ("Pump", "rpm", "pump/speed"),
    ("Room", "°C", "room/air"),
    ("Ambient temperature", "°C", "room/air"),
    ("Case temperature", "°C", "box/air"),
    ("Wall power", "W", "wall/wall_power"),
    ("Sound level", "dBA", "sound/level"),
    ("Frame rate", "", "ignore"),
]


OTHER_LANGUAGES = [
    ("Prozessor Temperatur", "°C", "processor-core/temperature"),
    ("Grafikkarte Leistung", "W", "graphics/power"),
    ("Arbeitsspeicher", "°C", "memory-place/temperature"),
    ("Wasser Temp", "°C", "loop-a/coolant_hot"),
    ("Pumpe Drehzahl", "U/min", "pump/speed"),
    ("Raum", "°C", "room/air"),
    ("Gehäuse", "°C", "box/air"),
    ("Température processeur", "°C", "processor-core/temperature"),
    ("Disque", "°C", "drive-place/temperature"),
    ("Débit", "l/min", "loop-a/flow"),
    ("Procesador potencia", "W", "processor/power"),
    ("Habitación", "°C", "room/air"),
    ("Caudal agua", "l/min", "loop-a/flow"),
    ("Temperatura procesora", "°C", "processor-core/temperature"),
    ("Otoczenie", "°C", "room/air"),
    ("Pompa obroty", "", "pump/speed"),
    ("Moc gniazdko", "W", "wall/wall_power"),
]


@pytest.mark.parametrize(("name", "unit", "role"), OTHER_LANGUAGES, ids=[n for n, _, _ in OTHER_LANGUAGES])
def test_names_in_german_french_spanish_and_polish(name, unit, role):
    (found,) = suggest_roles([name], [unit], BUILD)
    assert found.role == role


@pytest.mark.parametrize(("name", "unit", "role"), NAMES, ids=[n for n, _, _ in NAMES])
def test_common_names(name, unit, role):
    (found,) = suggest_roles([name], [unit], BUILD)
    assert found.role == role


def test_a_role_is_given_once_and_the_best_name_gets_it():
    found = suggest_roles(["Core 3", "CPU Package", "Core 5"], ["°C"] * 3, BUILD)
    assert [f.role for f in found].count("processor-core/temperature") == 1
    assert found[1].role == "processor-core/temperature"
    assert found[1].sure
    assert not found[0].sure or found[0].role == "ignore"


@pytest.mark.parametrize(
    ("name", "unit", "role"),
    [
        ("GPU fan duty", "%", "ignore"),  # another device's fan: it was taken for the loop's
        ("PSU fan speed", "rpm", "ignore"),
        ("Fan A1 duty", "%", "fan-a1/duty"),
        ("Fan duty", "%", "fan-a1/duty"),
        ("Board chips power", "W", "board-chips/power"),
    ],
)
def test_a_fan_of_another_device_is_nobodys(name, unit, role):
    [found] = suggest_roles([name], [unit], recipe())
    assert found.role == role
