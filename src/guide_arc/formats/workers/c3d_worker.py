"""Reads one C3D file in a separate process, because the parsing library trusts its input.

`python c3d_worker.py FILE OUT.npz MOST_BYTES MOST_SECONDS`: writes the points, or ends with a code
that is not 0. It imports nothing of this package.
"""

from __future__ import annotations

import resource
import sys


def main() -> None:
    source, target = sys.argv[1:3]
    most, seconds = int(sys.argv[3]), int(sys.argv[4])
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    import ezc3d  # noqa: PLC0415
    import numpy as np  # noqa: PLC0415

    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    found = ezc3d.c3d(source)
    parameters = found["parameters"]
    points = np.asarray(found["data"]["points"], dtype=np.float64)
    residuals = np.asarray(found["data"]["meta_points"]["residuals"], dtype=np.float64)
    labels: list[str] = []
    for key in ("LABELS", *(f"LABELS{i}" for i in range(2, 20))):
        if key in parameters["POINT"]:
            labels += [str(label) for label in parameters["POINT"][key]["value"]]
    units = parameters["POINT"].get("UNITS", {"value": ["mm"]})["value"]
    notes = parameters.get("TRACK", {})
    said = {
        k: str(v["value"][0]) for k, v in notes.items() if k != "__METADATA__" and len(v["value"])
    }
    np.savez(
        target,
        points=points,
        residuals=residuals.reshape(1, *points.shape[1:]),
        labels=np.array(labels),
        units=np.array(str(units[0]) if len(units) else "mm"),
        rate=np.array(float(parameters["POINT"]["RATE"]["value"][0])),
        keys=np.array(list(said)),
        texts=np.array(list(said.values())),
    )


if __name__ == "__main__":
    main()
