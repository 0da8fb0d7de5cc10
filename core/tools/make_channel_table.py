"""Makes krill/physics/tables/channels.json: effective emissivity of fin channels by radiosity (crossed strings).

Run in the core's development environment: python tools/make_channel_table.py
"""

import json
from pathlib import Path

import numpy as np

from krill.physics.radiation import channel_emissivity_radiosity

TARGET = Path(__file__).parents[1] / "krill/physics/tables/channels.json"
STRIPS = 120


def main() -> None:
    emissivities = np.round(np.concatenate([np.geomspace(0.01, 0.2, 14), np.linspace(0.24, 1.0, 20)]), 6)
    depths = [0.0, 0.25, 0.5, 1.0, 1.5, 2.0, 3.0, 4.0, 6.0, 8.0, 12.0, 20.0, 40.0]
    effective = [[round(channel_emissivity_radiosity(float(e), d, STRIPS), 6) for d in depths] for e in emissivities]
    data = {
        "made_by": "tools/make_channel_table.py",
        "emissivity": emissivities.tolist(),
        "depth_over_spacing": depths,
        "effective": effective,
    }
    TARGET.write_text(json.dumps(data, separators=(",", ":")) + "\n")


if __name__ == "__main__":
    main()
