"""Builds that runs have taught something."""

from strategies import recipe

from krill.components.figure_table import FigureTable
from krill.document.calibration import Calibration

A, B = "plate-processor/factor", "plate-graphics/factor"


def calibrated(mean=(0.2, -0.1), covariance=((0.01, -0.008), (-0.008, 0.01)), assumed=0.3, at=None, chosen=True):
    build = recipe()
    stated = FigureTable(build).figures
    unknowns = [
        {
            "id": address,
            "name": address,
            "moves": [{"address": address, "power": 1, "at": stated[address].value if at is None else at}],
            "assumed": assumed,
            "mean": m,
            "chosen": chosen,
        }
        for address, m in zip((A, B), mean, strict=True)
    ]
    told = Calibration(
        runs=[{"run": "r1", "name": "Both log"}],
        unknowns=unknowns,
        covariance=covariance,
        places=["processor-core/temperature"],
    )
    return build.model_copy(update={"calibration": told}), stated
