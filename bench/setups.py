"""How fast setups are worked out: `./run dev python bench/setups.py`.

One curve of 201 points for every joint of both arms, finding a setup for every cable and band
standard in a room of holes and bench notches, and a drag of the pulley until the place has painted
itself again. Each is the median of its runs; of the standards the slowest is named as well. The
optimiser is loaded before, as the place Setup does beside its first picture.
"""

from __future__ import annotations

import tempfile
from pathlib import Path
from statistics import median
from time import perf_counter

from PyQt6.QtWidgets import QApplication

from guide_arc.app.main import application, settings_at
from guide_arc.app.places.setup.moving import placed_at
from guide_arc.app.services.destinations import ToSetup
from guide_arc.app.services.setup_jobs import USUAL_ROOM, find, make_ready
from guide_arc.core.mechanics.find_setup import Wish
from guide_arc.core.mechanics.kit import Cable
from guide_arc.core.mechanics.path_load import USUAL_STATURE_M, load_along, own_kit
from guide_arc.core.simulate.on_path import path_of
from guide_arc.library.store import Library
from guide_arc.standards.loader import shipped, standard
from hands import Hands

RUNS = 40


def curve_ms() -> float:
    plan = standard("cable-cross-raise-low")
    path = path_of(plan)
    kit = own_kit(plan, path)
    return _median_ms(lambda: load_along(path, kit), RUNS)


def solver_s() -> tuple[float, float, str]:
    """The median and the slowest of all cable and band standards, and the slowest one's id."""
    make_ready(lambda _share: None)
    took = {}
    for id in shipped():
        plan = standard(id)
        if plan.pull not in ("cable", "band"):
            continue
        kit = own_kit(plan, path_of(plan))
        wish = Wish("middle", True, True, (), USUAL_ROOM.with_column(""))
        start = perf_counter()
        find(lambda _share: None, plan, USUAL_STATURE_M, kit, wish)
        took[id] = perf_counter() - start
    slowest = max(took, key=lambda id: took[id])
    return median(took.values()), took[slowest], slowest


def drag_ms() -> float:
    app = application()
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place) / "library"
        Library.open(folder).close()
        window = Hands(folder, settings_at(folder))
        window.shell.resize(1280, 800)
        window.program.go(ToSetup("cable-cross-raise-low"))
        window.settle()
        model = window.of("setup").model
        kit = model.doc.kit
        assert isinstance(kit, Cable), "a raise at a cable column has a cable"
        x, y, z = kit.pulley_m["left"]
        step = [0]

        def drag() -> None:
            step[0] += 1
            model.move(placed_at(model.doc, "left", (x, y + 0.002 * (step[0] % 50), z)))
            # What the drag made stale is painted now, as on the screen's next frame.
            for view in window.of("setup")._views():
                view.repaint()
            app.processEvents()

        took = _median_ms(drag, RUNS)
        model.let_go()
        QApplication.processEvents()
        window.close()
    return took


def _median_ms(act: object, runs: int) -> float:
    times = []
    for _ in range(runs):
        start = perf_counter()
        act()  # type: ignore[operator]
        times.append(1000 * (perf_counter() - start))
    return median(times)


def main() -> None:
    print(f"a curve of 201 points, all joints of both arms: {curve_ms():.2f} ms (asked: 2)")
    usual, slowest, id = solver_s()
    print(f"finding a setup: {usual:.2f} s, at most {slowest:.2f} s ({id}) (asked: 1)")
    print(f"a drag until the picture stands: {drag_ms():.1f} ms (asked: 33)")


if __name__ == "__main__":
    main()
