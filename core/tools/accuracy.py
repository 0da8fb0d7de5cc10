"""Prints the accuracy page: common practice P4, P5, P6, P11 with class figures, one set of defaults for all.

Figures are rounded so that the page is the same on every machine. Sign and order are asserted here.
"""

import copy
import sys
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from krill.document.reading import read_object, write_object
from krill.prediction.predict import predict
from krill.recipes.water_loop import water_loop

SAMPLES = 1000


@dataclass(frozen=True)
class Row:
    case: str
    quantity: str
    predicted: str
    practice: str
    inside: str  # yes | bands only | no
    reason: str = ""


def base(
    processor: float, graphics: float, room: float = 23.0, sections: int = 2, thickness: float = 28
) -> dict[str, Any]:
    """The recipe with one radiator of the given size that breathes the room and blows into the box."""
    raw = copy.deepcopy(write_object(water_loop(processor, graphics, 25, room)))
    raw["parts"] = [p for p in raw["parts"] if not p["id"].startswith(("radiator-", "fan-"))]
    raw["parts"].append({"id": "radiator-a", "kind": "radiator", "section_mm": 120, "sections": sections,
                         "thickness_mm": thickness})  # fmt: skip
    fans = [f"fan-a{n + 1}" for n in range(sections)]
    raw["parts"] += [{"id": fan, "kind": "fan", "class": "fan_120x25"} for fan in fans]
    for part in raw["parts"]:
        if part["id"] == "grille":
            part["area_cm2"] = 144 * sections
        if part["id"] == "vents":
            part["area_cm2"] = 500
    branch: Any = {"parallel": [[fan] for fan in fans]} if sections > 1 else fans[0]
    raw["air_paths"] = [
        {"id": "air-in", "from_zone": "outside", "to_zone": "box", "elements": ["grille", branch, "radiator-a"]},
        {"id": "air-vents", "from_zone": "box", "to_zone": "outside", "elements": ["vents"]},
    ]
    raw["loops"][0]["elements"] = ["pump", "tube", "plate-processor", "plate-graphics", "fittings", "radiator-a", "elbows",
                                   "reservoir"]  # fmt: skip
    for workload in raw["workloads"]:
        workload["movers"] = {"pump": {"duty": 0.7}} | {fan: {"duty": 0.8} for fan in fans}
    return raw


def place(prediction: Any, name: str) -> Any:
    return next(p for p in prediction["workloads"][0]["places"] if p["address"] == name)


def asked(raw: dict[str, Any], workload: str, samples: int = SAMPLES) -> Any:
    return predict(read_object(raw), [workload], samples=samples)


def band(found: Any) -> str:
    return f"{found['temperature_c']:.0f} ({found['band_c']['low']:.0f} to {found['band_c']['high']:.0f}) °C"


def against(found: Any, low: float, high: float) -> str:
    """Whether the predicted centre lies in the practice band, or the two bands only meet."""
    if low <= found["temperature_c"] <= high:
        return "yes"
    return "bands only" if found["band_c"]["low"] <= high and found["band_c"]["high"] >= low else "no"


def yes_no(fits: bool) -> str:
    return "yes" if fits else "no"


def coolant_over_room(watts: float, thickness: float) -> float:
    raw = base(0.4 * watts, 0.6 * watts, thickness=thickness)
    for part in raw["parts"]:
        if part["id"] == "grille":
            part["class"] = "opening_guard"
    for workload in raw["workloads"]:
        for fan in ("fan-a1", "fan-a2"):
            workload["movers"][fan] = {"duty": 1.0}
    return float(asked(raw, "both", 0)["workloads"][0]["rules"]["coolant_over_room_k"])


def p4() -> list[Row]:
    """One radiator of two 120 mm sections with 25 mm fans."""
    rows = []
    by_watts = {watts: coolant_over_room(watts, 38) for watts in (250, 300, 450, 500)}
    assert list(by_watts.values()) == sorted(by_watts.values())
    for watts, kelvins in by_watts.items():
        comfortable = watts <= 300
        good = kelvins <= 15 if comfortable else kelvins > 15
        rows.append(Row("P4", f"240 x 38, {watts} W: coolant over room", f"{kelvins:.0f} K",
                        "comfortable (10 good, 15 tight)" if comfortable else "struggles: six or more sections",
                        yes_no(good), "" if good else "grille, filter and the doubt of the class table decide"))  # fmt: skip
    return rows


def p5() -> list[Row]:
    """Slim radiator of two sections, 75 W lidded processor and 300 W graphics on one loop."""
    raw = base(75, 300)
    graphics, mixed = place(asked(raw, "graphics-only"), "graphics-chip"), place(asked(raw, "both"), "processor-core")
    return [
        Row("P5", "graphics-only load: graphics chip", band(graphics), "71 ± 7 °C", against(graphics, 64, 78),
            "chip watts or board watts is not known in practice figures; a smaller chip or a plainer plate would explain it"),
        Row("P5", "mixed load: processor, hottest core", band(mixed), "62 ± 7 °C", against(mixed, 55, 69),
            "the class of the lid joint alone is 7 K"),
    ]  # fmt: skip


def p6() -> list[Row]:
    """Half as many processor watts again on a shared loop."""
    raw = base(70, 220)  # one processor class for both: only its watts change
    less = asked(raw, "both", 0)
    raw["workloads"][3]["watts"]["processor"] = 105
    more = asked(raw, "both", 0)
    shared = ("processor-core", "graphics-chip", "graphics-memory", "graphics-regulators")
    rises = {n: place(more, n)["temperature_c"] - place(less, n)["temperature_c"] for n in shared}
    assert all(rise > 0 for rise in rises.values()), rises
    text = ", ".join(f"{n} {rise:+.0f} K" for n, rise in rises.items())
    return [Row("P6", "processor 70 to 105 W: everything on the loop", text, "everything gets warmer", "yes")]


def p11() -> list[Row]:
    """Best against worst paste on a lidded chip of 125 W."""

    def with_paste(name: str) -> float:
        raw = base(125, 150, sections=3)
        next(p for p in raw["parts"] if p["id"] == "paste-processor")["class"] = f"{name}_lid"
        return float(place(asked(raw, "both", 0), "processor-core")["temperature_c"])

    best, ordinary, dry = (with_paste(n) for n in ("liquid_metal", "paste_ordinary", "paste_dry"))
    assert best < ordinary < dry
    difference = dry - best
    return [
        Row("P11", "125 W: dry against best paste", f"{difference:.1f} K", "2 to 4 K", yes_no(2 <= difference <= 4))
    ]


CASES: tuple[Callable[[], list[Row]], ...] = (p4, p5, p6, p11)

HEAD = """# Accuracy

Written by `bin/accuracy`; CI fails when it is stale. One set of class defaults (`catalogue/`) serves every case; nothing is
tuned for one of them. Practice figures are common practice without a published source, with wide bands; they are loose
checks. Signs and orders are asserted by the script; a miss is listed with its likely reason and left standing.

| case | quantity | predicted (90 % band) | practice | centre inside | likely reason where not |
| --- | --- | --- | --- | --- | --- |"""

TAIL = """
What these cases cannot show: most class figures are values from memory, practice figures leave open the room, the chip class and
which watts are meant, and bands of class figures are wide on purpose.
Published and certified check values stand in `core/tests/published/cases.json` with their sources and are gated in the
core's tests (groups F, H, X, S, T, R, ST and parts of D)."""


def main() -> None:
    lines = [HEAD]
    for case in CASES:
        for row in case():
            verdict = row.inside if row.inside == "yes" else f"**{row.inside}**"
            lines.append(f"| {row.case} | {row.quantity} | {row.predicted} | {row.practice} | {verdict} | "
                         f"{'' if row.inside == 'yes' else row.reason} |")  # fmt: skip
    sys.stdout.write("\n".join(lines) + "\n" + TAIL + "\n")


if __name__ == "__main__":
    main()
