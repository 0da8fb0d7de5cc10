"""What a Linux host tells of itself: temperatures, powers, clocks, speeds, use."""

import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

import psutil

Figure = float | None
Reading = tuple[str, str, Figure]

HWMON: Final = Path("/sys/class/hwmon")
POWERCAP: Final = Path("/sys/class/powercap")
#: sensors that show more are broken
HOTTEST_C: Final = 200.0


@dataclass
class Host:
    """Reads the same channels, in the same order, each time."""

    hwmon: Path = HWMON
    powercap: Path = POWERCAP
    steady: Callable[[], float] = time.monotonic
    _energy: dict[str, tuple[float, float]] = field(default_factory=dict)

    def channels(self) -> list[tuple[str, str]]:
        """(name, unit) of everything that can be read here; names that stand twice are numbered."""
        psutil.cpu_percent()  # the first call has nothing to compare with
        list(self._counted_powers())
        found: list[tuple[str, str]] = []
        for name, unit, _ in self._readings():
            times = sum(1 for known, _ in found if known == name or known.startswith(f"{name} #"))
            found.append((name if not times else f"{name} #{times + 1}", unit))
        return found

    def read(self) -> list[Figure]:
        """One row, None where a sensor says nothing now."""
        return [value for _, _, value in self._readings()]

    def _readings(self) -> Iterator[Reading]:
        yield from self._temperatures()
        yield from self._fans()
        yield from self._hwmon_powers()
        yield from self._counted_powers()
        yield from _clocks()
        yield "Processor use", "%", float(psutil.cpu_percent())
        yield "Memory use", "%", float(psutil.virtual_memory().percent)

    def _inputs(self, pattern: str) -> Iterator[tuple[str, Path]]:
        for device in sorted(self.hwmon.glob("hwmon*")):
            chip = _text(device / "name") or device.name
            for path in sorted(device.glob(pattern)):
                label = _text(path.with_name(path.name.rpartition("_")[0] + "_label"))
                yield f"{chip} {label or path.name.rpartition('_')[0]}", path

    def _temperatures(self) -> Iterator[Reading]:
        for name, path in self._inputs("temp*_input"):
            value = _number(path)
            c = None if value is None else value / 1000.0
            yield f"{name} temperature", "°C", c if c is not None and c < HOTTEST_C else None

    def _fans(self) -> Iterator[Reading]:
        for name, path in self._inputs("fan*_input"):
            yield f"{name} speed", "rpm", _number(path)

    def _hwmon_powers(self) -> Iterator[Reading]:
        for pattern in ("power*_average", "power*_input"):
            for name, path in self._inputs(pattern):
                value = _number(path)
                yield f"{name} power", "W", None if value is None else value / 1e6

    def _counted_powers(self) -> Iterator[Reading]:
        """Watts by counters of energy; the first row has nothing to compare with, and a counter may wrap."""
        for path in sorted(self.powercap.glob("*/energy_uj")):
            name = _text(path.with_name("name")) or path.parent.name
            now, energy = self.steady(), _number(path)
            before = self._energy.get(str(path))
            watts: Figure = None
            if energy is not None:
                self._energy[str(path)] = (now, energy)
                if before is not None and now > before[0]:
                    used = energy - before[1]
                    if used < 0:
                        used += _number(path.with_name("max_energy_range_uj")) or 0.0
                    watts = used / 1e6 / (now - before[0]) if used >= 0 else None
            yield f"{name} power", "W", watts


def _clocks() -> Iterator[Reading]:
    clock = psutil.cpu_freq()
    if clock is not None:
        yield "Processor clock", "MHz", float(clock.current)


def _text(path: Path) -> str:
    try:
        return path.read_text(encoding="utf-8", errors="replace").strip()
    except OSError:
        return ""


def _number(path: Path) -> float | None:
    try:
        return float(path.read_text())
    except (OSError, ValueError):
        return None
