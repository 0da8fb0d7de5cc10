"""What can go wrong with solids: hot outsides, plastics that soften, pipes that dry out, layers that eat their neighbours."""

from collections.abc import Iterator
from typing import Final

from krill.catalogue.materials import plastic_of, softening
from krill.document.part_base import Plastic
from krill.document.solids import Interface, Panel, Sink
from krill.prediction.answer.result import BodyResult, Notice, PipeResult
from krill.prediction.answer.solving import Solved
from krill.prediction.notices.notice import note, warning

CONTACT_WORDS: Final = {"1_s": "one second", "1_min": "one minute", "10_min": "ten minutes", "8_h": "eight hours"}
#: adhesive tape lets go above this (common practice)
TAPE_C = 80.0


def solid_notices(solved: Solved, case: int, bodies: list[BodyResult], pipes: list[PipeResult]) -> Iterator[Notice]:
    """Every notice of the solids of one workload."""
    row = solved.central(case)
    for body in bodies:
        yield from _touch(body)
    for pipe in pipes:
        yield from _pipe(pipe)
    yield from _plastics(solved, row, bodies)
    yield from _layers(solved, row)


def _touch(body: BodyResult) -> Iterator[Notice]:
    touch = body.touch
    if touch is None:
        return
    words = CONTACT_WORDS[touch.contact]
    if touch.says == "too hot":
        yield warning(
            body.address,
            f"{body.name} is {body.hottest_c:.0f} °C where it is hottest: skin burns from "
            f"{touch.limit_c:.0f} °C after {words} (ISO 13732-1, value from memory).",
        )
    elif touch.says == "unknown":
        yield note(body.address, f"{body.name}: no burn threshold is known here for its material and {words}.")


def _pipe(pipe: PipeResult) -> Iterator[Notice]:
    if pipe.state == "dried out":
        yield warning(
            pipe.address,
            f"{pipe.name} are dried out: the busiest would carry more than its "
            f"{pipe.limit_w:.0f} W ({pipe.binding} limit). More or larger pipes, or less lift, help.",
        )
    elif pipe.state == "near its limit":
        yield note(
            pipe.address,
            f"{pipe.name}: the busiest carries {100 * pipe.share:.0f} % of its limit of "
            f"{pipe.limit_w:.0f} W ({pipe.binding}).",
        )


def _plastics(solved: Solved, row: int, bodies: list[BodyResult]) -> Iterator[Notice]:
    hottest = {body.address: body.hottest_c for body in bodies}
    for part in solved.build.parts:
        if isinstance(part, Sink | Panel):
            own = plastic_of(part.material)
            if own is not None:
                yield from _softens(part.id, part.name or part.id, own, hottest[part.id])
        if part.plastic is not None and part.near is not None:
            names = solved.structure.node_names
            if part.near in hottest or part.near in names:
                T = hottest.get(part.near)
                node = float(solved.solution.temperature[row, names.index(part.near)]) if T is None else T
                yield from _softens(part.id, part.name or part.id, part.plastic, node)


def _softens(address: str, name: str, plastic: Plastic, temperature: float) -> Iterator[Notice]:
    softens, away = softening(plastic)
    if temperature > softens - away:
        yield warning(
            address,
            f"{name} is {temperature:.0f} °C: {plastic.upper()} softens at {softens:.0f} °C, keep "
            f"{away:g} K away (common practice).",
        )


def _layers(solved: Solved, row: int) -> Iterator[Notice]:
    for part in solved.build.parts:
        if isinstance(part, Interface) and (part.class_ or "").startswith("liquid_metal"):
            name = part.name or part.id
            if "aluminium" in part.touches:
                yield warning(part.id, f"{name}: liquid metal destroys aluminium; take another material.")
            elif "copper" in part.touches:
                yield note(part.id, f"{name}: liquid metal alloys into bare copper; refresh it once after some weeks.")
    for route in solved.structure.all_routes:
        for layer in route.layers:
            if layer.kind != "interface" or layer.hop is None:
                continue
            part = solved.build.part(layer.hop.part or "")
            T = float(solved.solution.temperature[row, layer.inner])
            if part.class_ == "tape_stick_on" and T > TAPE_C:
                yield warning(
                    part.id, f"{part.name or part.id} is {T:.0f} °C: adhesive tape lets go above {TAPE_C:.0f} °C."
                )
