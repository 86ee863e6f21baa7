"""The whole wheel against a general-purpose 3D frame package from PyPI: PyNiteFEA, same geometry, same mesh."""

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.components import Wheel
from felloe.core.mechanics.influence import influence_of
from felloe.core.tension.statics import side_targets_n
from tests.core.wheels import ALL
from tests.outside.frame import frame_of, orient_rim, prestressed_turn, turn_nipple

REAR, DISC = ALL["rim-brake-rear-36"], ALL["disc-rear-32"]
#: Rims whose spoke bed lies aside, whose holes are staggered, whose section is deep: where an arm or a sign would show.
ODD_RIMS = {
    "offset": replace(DISC, rim=replace(DISC.rim, spoke_bed_offset_mm=3.0)),
    "offset the other way": replace(REAR, rim=replace(REAR.rim, spoke_bed_offset_mm=-2.5)),
    "staggered": replace(REAR, rim=replace(REAR.rim, stagger_mm=3.0)),
    "deep, offset and staggered": replace(
        DISC, rim=replace(DISC.rim, spoke_bed_offset_mm=2.0, stagger_mm=1.5, centroid_depth_mm=22.0)
    ),
    "dished": replace(REAR, dish_target_mm=2.0),
}


def differences(ours: dict[str, np.ndarray], theirs: dict[str, np.ndarray]) -> dict[str, float]:
    return {what: float(np.abs(ours[what] - theirs[what]).max() / np.abs(ours[what]).max()) for what in theirs}


def one_turn(wheel: Wheel, spoke: int, tensioned: bool) -> dict[str, np.ndarray]:
    inf = influence_of(wheel, tensioned=tensioned)
    return {what: getattr(inf, what)[:, spoke] for what in ("lateral_mm", "radial_mm", "tension_n")}


class WholeWheel(unittest.TestCase):
    def test_one_turn_within_half_a_percent(self) -> None:
        for key, spoke in (("rim-brake-rear-36", 0), ("rim-brake-rear-36", 7), ("disc-rear-32", 3), ("small-front-20", 1)):
            wheel = ALL[key]
            inf = influence_of(wheel, tensioned=False)
            model = frame_of(wheel)
            orient_rim(model, wheel.spoke_count)
            found = turn_nipple(model, wheel, spoke, 1.0)
            for name in ("lateral_mm", "radial_mm", "tension_n"):
                ours = getattr(inf, name)[:, spoke]
                with self.subTest(key, spoke=str(wheel.names[spoke]), what=name):
                    difference = np.abs(ours - found[name]).max() / np.abs(ours).max()
                    self.assertLess(difference, 0.005)

    def test_offset_and_staggered_rims(self) -> None:
        for what, wheel in ODD_RIMS.items():
            for spoke in (2, 5):
                model = frame_of(wheel)
                orient_rim(model, wheel.spoke_count)
                found = turn_nipple(model, wheel, spoke, 1.0)
                with self.subTest(what, spoke=str(wheel.names[spoke])):
                    self.assertLess(max(differences(one_turn(wheel, spoke, False), found).values()), 0.005)

    def test_under_tension(self) -> None:
        """The prestressed wheel, which moves up to a fifth further than the unstressed one, with the package's own geometric
        stiffness for rim, spokes and the arms to their seats."""
        wheels = {"rear": REAR, "disc": DISC, "small": ALL["small-front-20"], **ODD_RIMS}
        for what, wheel in wheels.items():
            targets = side_targets_n(wheel)
            tension = np.array([targets[name.side] for name in wheel.names])
            for spoke in (1, 6):
                model = frame_of(wheel)
                orient_rim(model, wheel.spoke_count)
                found = prestressed_turn(model, wheel, spoke, 1.0, tension)
                with self.subTest(what, spoke=str(wheel.names[spoke])):
                    ours = one_turn(wheel, spoke, True)
                    self.assertLess(max(differences(ours, found).values()), 0.006)
                    # Five times nearer than without the prestress: the test would notice its loss.
                    lateral = np.abs(one_turn(wheel, spoke, False)["lateral_mm"] - found["lateral_mm"]).max()
                    self.assertLess(5 * np.abs(ours["lateral_mm"] - found["lateral_mm"]).max(), lateral)

    def test_a_load_on_the_rim(self) -> None:
        """100 N sideways at the first hole: the rim's place and the spokes' sharing agree."""
        wheel = ALL["rim-brake-rear-36"]
        inf = influence_of(wheel, tensioned=False)
        load = np.zeros(6 * 36)
        load[2] = 100.0
        ours = inf.response_to(load)
        model = frame_of(wheel)
        orient_rim(model, 36)
        model.add_node_load("n0", "FZ", 100.0)
        model.analyze_linear()
        theirs = np.array([float(model.nodes[f"n{j}"].DZ["Combo 1"]) for j in range(36)])
        self.assertLess(np.abs(ours[2::6] - theirs).max() / np.abs(theirs).max(), 0.005)
        shared = -np.array([float(model.members[f"k{j}"].axial(0.0)) for j in range(36)])
        self.assertLess(np.abs(inf.tension_change(ours) - shared).max() / np.abs(shared).max(), 0.005)
