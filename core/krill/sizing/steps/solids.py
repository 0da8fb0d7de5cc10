"""Steps on solids: interfaces, heat pipes, sinks, panels."""

from collections.abc import Iterator

from krill.catalogue.classes import classes
from krill.catalogue.materials import finish_names, mass_of, material_figure
from krill.components.figure_table import FigureTable, Values
from krill.components.sinks import fins_of
from krill.document.build import Build
from krill.document.geometry import stand_of
from krill.document.quantities import figures_of
from krill.document.solids import HeatPipe, Interface, Panel, Sink
from krill.sizing.result import Edit
from krill.sizing.steps.step import Step, figure_step, rounded, signed, value_in_units

#: share of a figure that counts as one step where nothing better is known
SHARE = 0.2
GROWTH_MM = {"fin_height_mm": 10.0, "base_mm": 2.0, "thickness_mm": 1.0, "condenser_mm": 20.0}
PITCH_STEP_MM = 1.0
BOARD = "circuit_board"
#: a pad of half the thickness keeps its contacts (common practice: thickness / k + 20 mm2K/W)
HALF_PAD = 0.54
GOOD_PASTE = {"lid": "paste_good_lid", "chip": "paste_good_chip"}
NEXT_PIPE = {
    "pipe_6_sintered": "pipe_8_sintered",
    "pipe_8_sintered": "pipe_10_sintered",
    "pipe_6_mesh": "pipe_6_sintered",
    "pipe_6_grooved": "pipe_8_grooved",
}


def _sink_steps(build: Build, table: FigureTable, sink: Sink) -> Iterator[Step]:
    name = sink.name or sink.id
    before = _sink_mass(build, table, sink, {})

    def grown(field_name: str, wanted: float, label: str, extra: tuple[str, ...] = ()) -> Step:
        heavier = (
            _sink_mass(build, table, sink, {f"{sink.id}/{field_name}": wanted * figures_of(Sink)[field_name].factor})
            - before
        )
        return figure_step(table, sink, field_name, wanted, label, (*extra, signed(1000 * heavier, "g")))

    pitch, thickness = (value_in_units(table, f"{sink.id}/{f}") for f in ("fin_pitch_mm", "fin_thickness_mm"))
    if pitch - PITCH_STEP_MM > thickness + 1.0:
        yield grown("fin_pitch_mm", pitch - PITCH_STEP_MM, f"{name}: pitch {pitch:g} → {pitch - PITCH_STEP_MM:g} mm")
    yield grown("fin_pitch_mm", pitch + PITCH_STEP_MM, f"{name}: pitch {pitch:g} → {pitch + PITCH_STEP_MM:g} mm")
    height = value_in_units(table, f"{sink.id}/fin_height_mm")
    taller = height + GROWTH_MM["fin_height_mm"]
    yield grown("fin_height_mm", taller, f"{name}: fins {height:g} → {taller:g} mm high", ("+10 mm deep",))
    for field_name, word in (("length_mm", "long"), ("width_mm", "wide")):
        size = value_in_units(table, f"{sink.id}/{field_name}")
        wanted = rounded(size * (1 + SHARE))
        yield grown(field_name, wanted, f"{name}: {size:g} → {wanted:g} mm {word}", (f"+{wanted - size:.0f} mm",))
    base = value_in_units(table, f"{sink.id}/base_mm")
    yield grown("base_mm", base + 2, f"{name}: base {base:g} → {base + 2:g} mm", ("+2 mm deep",))
    yield from _finish_steps(table, sink)
    stand = stand_of(build, sink)
    if stand != "upright" and sink.face is None:
        yield Step(f"{name}: stand it upright", sink.id, {}, (Edit(target=sink.id, field="stands", value="upright"),))
    elif stand == "on_edge":
        other = "width" if sink.fins_along == "height" else "height"
        yield Step(
            f"{name}: turn its fins upright", sink.id, {}, (Edit(target=sink.id, field="fins_along", value=other),)
        )
    if sink.flanks == "covered":
        yield Step(f"{name}: leave its flanks free", sink.id, {}, (Edit(target=sink.id, field="flanks", value="free"),))


def _sink_mass(build: Build, table: FigureTable, sink: Sink, changed: dict[str, float]) -> float:
    for address, value in changed.items():
        table = table.with_override(address, value)
    return mass_of(sink.material, float(fins_of(sink, stand_of(build, sink), Values(table, 1, {})).metal_volume))


def _finish_steps(table: FigureTable, part: Sink | Panel) -> Iterator[Step]:
    """Other finishes, where the emissivity is that of the finish."""
    if part.emissivity is not None:
        return
    now = table.figures[f"{part.id}/emissivity"].value
    for finish in ("anodised", "painted", "raw"):
        known = material_figure(part.material, finish, "emissivity")
        if known is None or finish == part.finish or abs(known[0] - now) < 0.03:
            continue
        edit: Edit = Edit(target=part.id, field="finish", value=finish)
        yield Step(
            f"{part.name or part.id}: {finish_names()[finish]}", part.id, {f"{part.id}/emissivity": known[0]}, (edit,)
        )


def _panel_steps(build: Build, table: FigureTable, panel: Panel) -> Iterator[Step]:
    """A board is what it is; a side of a housing is as large as that."""
    if panel.material == BOARD:
        return
    name = panel.name or panel.id
    thickness = value_in_units(table, f"{panel.id}/thickness_mm")
    area = value_in_units(table, f"{panel.id}/width_mm") * value_in_units(table, f"{panel.id}/height_mm") * 1e-6
    heavier = mass_of(panel.material, area * 1e-3)
    yield figure_step(
        table,
        panel,
        "thickness_mm",
        thickness + 1,
        f"{name}: {thickness:g} → {thickness + 1:g} mm thick",
        (signed(1000 * heavier, "g"),),
    )
    is_side = panel.face is not None and build.housing.inner_size_mm is not None
    for field_name, word in () if is_side else (("width_mm", "wide"), ("height_mm", "high")):
        size = value_in_units(table, f"{panel.id}/{field_name}")
        wanted = rounded(size * (1 + SHARE))
        yield figure_step(
            table, panel, field_name, wanted, f"{name}: {size:g} → {wanted:g} mm {word}", (f"+{wanted - size:.0f} mm",)
        )
    if panel.material in ("steel", "stainless") and panel.conductivity_w_mk is None:
        yield Step(
            f"{name}: aluminium in place of {panel.material}",
            panel.id,
            {},
            (
                Edit(target=panel.id, field="material", value="aluminium_sheet"),
                Edit(target=panel.id, field="finish", value=panel.finish or "anodised"),
            ),
        )
    yield from _finish_steps(table, panel)


def _pipe_steps(table: FigureTable, pipe: HeatPipe) -> Iterator[Step]:
    name = pipe.name or pipe.id
    yield Step(
        f"{name}: {pipe.count} → {pipe.count + 1} pipes",
        pipe.id,
        {},
        (Edit(target=pipe.id, field="count", value=pipe.count + 1),),
    )
    if pipe.class_ in NEXT_PIPE and pipe.diameter_mm is None:
        larger = NEXT_PIPE[pipe.class_]
        yield Step(
            f"{name}: {classes()[larger].name}", pipe.id, {}, (Edit(target=pipe.id, field="class", value=larger),)
        )
    condenser = value_in_units(table, f"{pipe.id}/condenser_mm")
    longer = condenser + GROWTH_MM["condenser_mm"]
    yield figure_step(table, pipe, "condenser_mm", longer, f"{name}: {condenser:g} → {longer:g} mm in the base")
    joint = value_in_units(table, f"{pipe.id}/groove_mm2k_w")
    if joint > 10:
        yield figure_step(table, pipe, "groove_mm2k_w", 6, f"{name}: solder them into their grooves")


def _interface_steps(table: FigureTable, part: Interface) -> Iterator[Step]:
    address = f"{part.id}/resistance_mm2k_w"
    if address not in table.figures:
        return
    now = value_in_units(table, address)
    if (part.class_ or "").startswith(("pad", "putty")):
        thinner = rounded(HALF_PAD * now)
        yield figure_step(
            table, part, "resistance_mm2k_w", thinner, f"{part.name or part.id}: half as thick, where the gap allows"
        )
        return
    kind = "lid" if (part.class_ or "").endswith("lid") else "chip"
    good = classes()[GOOD_PASTE[kind]]
    better = good.figures["resistance_mm2k_w"][0]
    if better < 0.9 * now:
        if part.resistance_mm2k_w is None:
            edit: Edit = Edit(target=part.id, field="class", value=good.id)
            yield Step(f"{part.name or part.id}: {good.name}", part.id, {address: better * 1e-6}, (edit,))
        else:
            yield figure_step(table, part, "resistance_mm2k_w", better, f"{part.name or part.id}: {good.name}")


def solid_steps(build: Build, table: FigureTable) -> Iterator[Step]:
    """Steps of every solid, in the order of the parts."""
    for part in build.parts:
        if isinstance(part, Sink):
            yield from _sink_steps(build, table, part)
        elif isinstance(part, Panel):
            yield from _panel_steps(build, table, part)
        elif isinstance(part, HeatPipe):
            yield from _pipe_steps(table, part)
        elif isinstance(part, Interface):
            yield from _interface_steps(table, part)
