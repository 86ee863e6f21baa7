"""The whole wheel against a general-purpose 3D frame package from PyPI: PyNiteFEA, same geometry, same mesh."""

import unittest

import numpy as np

from felloe.core.mechanics.influence import influence_of
from tests.core.wheels import ALL
from tests.outside.frame import frame_of, orient_rim, turn_nipple


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
