"""Both ring models against closed formulas of the literature."""

import unittest

import numpy as np

from felloe.core.mechanics.ring import RingSection, ring_stiffness
from felloe.core.practice.virtual_wheel import RingBasis

RADIUS = 300.0
SECTION = RingSection(ea_n=6e6, ei_lat_nmm2=220e6, ei_rad_nmm2=150e6, gj_nmm2=50e6)
INEXTENSIBLE = RingSection(ea_n=1e11, ei_lat_nmm2=220e6, ei_rad_nmm2=150e6, gj_nmm2=50e6)


def love_out_of_plane(m: int, section: RingSection, p: float) -> float:
    """Amplitude under p·cos mθ across the plane: Love, Mathematical Theory of Elasticity; Timoshenko, Vibration Problems."""
    ei, gj = section.ei_lat_nmm2, section.gj_nmm2
    return p * RADIUS**4 * (ei + gj * m**2) / (ei * gj * m**2 * (m**2 - 1) ** 2)


def hoppe_in_plane(m: int, section: RingSection, p: float) -> float:
    """Amplitude under a radial p·cos mθ, inextensional: Hoppe; Timoshenko, Vibration Problems."""
    return p * RADIUS**4 / (section.ei_rad_nmm2 * (m**2 - 1) ** 2)


def solve_free_ring(stiffness: np.ndarray, load: np.ndarray) -> np.ndarray:
    """Least-norm answer of an unheld ring to a load in balance with itself."""
    return np.linalg.lstsq(stiffness, load, rcond=1e-12)[0]


class BeamRing(unittest.TestCase):
    nodes = 120

    def setUp(self) -> None:
        self.angles = np.arange(self.nodes) * 2 * np.pi / self.nodes
        self.spacing = 2 * np.pi * RADIUS / self.nodes

    def amplitude(self, values: np.ndarray, m: int) -> float:
        return 2 * float(values @ np.cos(m * self.angles)) / self.nodes

    def test_love(self) -> None:
        stiffness = ring_stiffness(SECTION, self.angles, RADIUS)
        for m in (2, 3, 4, 5):
            load = np.zeros(6 * self.nodes)
            load[2::6] = 0.01 * np.cos(m * self.angles) * self.spacing
            found = self.amplitude(solve_free_ring(stiffness, load)[2::6], m)
            with self.subTest(m):
                self.assertAlmostEqual(found / love_out_of_plane(m, SECTION, 0.01), 1, delta=0.01)

    def test_hoppe(self) -> None:
        stiffness = ring_stiffness(INEXTENSIBLE, self.angles, RADIUS)
        for m in (2, 3, 4, 5):
            load = np.zeros(6 * self.nodes)
            radial = 0.01 * np.cos(m * self.angles) * self.spacing
            load[0::6], load[1::6] = radial * np.cos(self.angles), radial * np.sin(self.angles)
            moved = solve_free_ring(stiffness, load)
            found = self.amplitude(moved[0::6] * np.cos(self.angles) + moved[1::6] * np.sin(self.angles), m)
            with self.subTest(m):
                self.assertAlmostEqual(found / hoppe_in_plane(m, INEXTENSIBLE, 0.01), 1, delta=0.01)

    def test_roark_two_opposite_loads(self) -> None:
        """Roark's Formulas for Stress and Strain, circular rings, two opposite loads W: 0.1488 and 0.1366 W·R³/EI."""
        stiffness = ring_stiffness(INEXTENSIBLE, self.angles, RADIUS)
        load = np.zeros(6 * self.nodes)
        half = self.nodes // 2
        load[0], load[6 * half] = -100.0, 100.0
        moved = solve_free_ring(stiffness, load)
        unit = 100.0 * RADIUS**3 / INEXTENSIBLE.ei_rad_nmm2
        along = moved[6 * half] - moved[0]
        across = moved[6 * (self.nodes // 4) + 1] - moved[6 * (3 * self.nodes // 4) + 1]
        self.assertAlmostEqual(along / unit, 0.1488, delta=0.0008)
        self.assertAlmostEqual(across / unit, 0.1366, delta=0.0008)

    def test_rigid_motion_costs_nothing(self) -> None:
        stiffness = ring_stiffness(SECTION, self.angles, RADIUS)
        x, y = RADIUS * np.cos(self.angles), RADIUS * np.sin(self.angles)
        tilt = np.zeros((self.nodes, 6))
        tilt[:, 2], tilt[:, 3] = y, 1.0
        spin = np.zeros((self.nodes, 6))
        spin[:, 0], spin[:, 1], spin[:, 5] = -y, x, 1.0
        for motion in (tilt, spin):
            forces = np.abs(stiffness @ motion.ravel()).max()
            self.assertLess(forces, 1e-9 * (np.abs(stiffness) @ np.abs(motion.ravel())).max())

    def test_one_node_a_spoke_is_fine_enough(self) -> None:
        """A ring of 36 nodes answers a smooth load as one of 144 within 1 % (found 0.93 %)."""
        answers = []
        for nodes in (36, 144):
            angles = (np.arange(nodes) + 0.5) * 2 * np.pi / nodes
            load = np.zeros(6 * nodes)
            load[2::6] = np.cos(2 * angles) * 2 * np.pi * RADIUS / nodes
            moved = solve_free_ring(ring_stiffness(SECTION, angles, RADIUS), load)
            answers.append(2 * float(moved[2::6] @ np.cos(2 * angles)) / nodes)
        self.assertAlmostEqual(answers[0] / answers[1], 1, delta=0.01)


class RitzRing(unittest.TestCase):
    """The virtual wheel's ring, which shares no code with the beam ring."""

    def solve(self, section: RingSection, m: int, field: int) -> float:
        basis = RingBasis(RADIUS, 8)
        stiffness = basis.elastic(section.ea_n, section.ei_lat_nmm2, section.ei_rad_nmm2, section.gj_nmm2)
        size = 2 * basis.highest + 1
        load = np.zeros(4 * size)
        load[field * size + 2 * m - 1] = 0.01 * np.pi * RADIUS
        return float(np.linalg.lstsq(stiffness, load, rcond=1e-12)[0][field * size + 2 * m - 1])

    def test_love(self) -> None:
        for m in (2, 3, 4, 5, 8):
            with self.subTest(m):
                self.assertAlmostEqual(self.solve(SECTION, m, 2) / love_out_of_plane(m, SECTION, 0.01), 1, places=6)

    def test_hoppe(self) -> None:
        for m in (2, 3, 4, 5, 8):
            with self.subTest(m):
                self.assertAlmostEqual(self.solve(INEXTENSIBLE, m, 0) / hoppe_in_plane(m, INEXTENSIBLE, 0.01), 1, places=3)
