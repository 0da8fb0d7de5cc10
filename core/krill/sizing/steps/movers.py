"""Steps on what fans and pumps are told."""

from collections.abc import Iterator

from krill.document.build import Workload
from krill.document.parts import Mover
from krill.sizing.result import Edit
from krill.sizing.steps.step import Step


def duty_steps(mover: Mover, workload: Workload, step: float) -> Iterator[Step]:
    """A mover told a duty by this workload, told a step more."""
    command = workload.movers.get(mover.id)
    if command is None or command.duty is None or command.duty >= 1:
        return
    duty = round(min(float(command.duty) + step, 1.0), 3)
    edit: Edit = Edit(target=workload.id, field=f"movers/{mover.id}", value={"duty": duty})
    label = f"{mover.name or mover.id}: {100 * float(command.duty):.0f} → {100 * duty:.0f} %"
    yield Step(label, mover.id, {}, (edit,), (), {mover.id: duty})
