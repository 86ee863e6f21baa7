"""The virtual wheel against plain statics, strain energies summed over a fine mesh, and figures drawn by hand."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.lacing.pattern import lace
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel, with_own_stiffness
from felloe.core.practice.hands import Hand, settled, turn_nipples, worked
from felloe.core.practice.instruments import dial_mm, meter_readings, turned_by_hand
from felloe.core.practice.sounds import plucked_side
from felloe.core.practice.virtual_wheel import RingBasis, VirtualWheel, harmonic_derivative, harmonic_rows
from felloe.core.spokes.twist import twist_turns
from felloe.core.tension.meter import MeterTable
from felloe.core.tension.pitch import free_length, pitch_of_tension, plucks
from tests.core.wheels import ALL, REAR

SMALL = ALL["small-front-20"]
#: A rim whose bed lies aside and whose holes are staggered: where the section's turning would show.
ODD = replace(REAR, rim=replace(REAR.rim, spoke_bed_offset_mm=3.0, stagger_mm=1.5, centroid_depth_mm=12.0))
FINE = np.linspace(0, 2 * np.pi, 4001)[:-1]


class Ring(unittest.TestCase):
    """Energies of a bent ring, integrated over four thousand places with strains as Love's curved rods have them."""

    def setUp(self) -> None:
        rng = np.random.default_rng(1)
        self.basis = RingBasis(300.0, 4)
        self.unknowns = rng.normal(0, 1, 4 * 9)
        rows = harmonic_rows(FINE, 4)
        self.radial, self.tangential, self.lateral, self.twist = (rows @ self.unknowns[9 * k : 9 * k + 9] for k in range(4))

    def along(self, values: np.ndarray) -> np.ndarray:
        """d/dθ by the fast Fourier transform."""
        waves = np.fft.rfft(values)
        return np.fft.irfft(1j * np.arange(len(waves)) * waves, len(values))

    def total(self, density: np.ndarray) -> float:
        return float(density.mean() * 2 * np.pi * 300.0)

    def test_the_basis(self) -> None:
        rows = harmonic_rows(np.array([0.3, 1.1]), 2)
        for row, angle in zip(rows, (0.3, 1.1), strict=True):
            np.testing.assert_allclose(row, [1, np.cos(angle), np.sin(angle), np.cos(2 * angle), np.sin(2 * angle)])
        values = harmonic_rows(FINE, 4) @ (harmonic_derivative(4) @ self.unknowns[:9])
        np.testing.assert_allclose(values, self.along(self.radial), atol=1e-8)

    def test_elastic_energy(self) -> None:
        r = 300.0
        stretch = (self.along(self.tangential) + self.radial) / r
        bend_in = (self.along(self.along(self.radial)) - self.along(self.tangential)) / r**2
        bend_out = self.twist / r - self.along(self.along(self.lateral)) / r**2
        torsion = self.along(self.twist) / r + self.along(self.lateral) / r**2
        for place, strain in enumerate((stretch, bend_out, bend_in, torsion)):
            moduli = [0.0] * 4
            moduli[place] = 1000.0
            energy = self.unknowns @ self.basis.elastic(*moduli) @ self.unknowns
            with self.subTest(place=place):
                self.assertAlmostEqual(energy / self.total(1000 * strain**2), 1, 9)

    def test_energy_of_the_hoop(self) -> None:
        """A hoop's pull works on the squares of the slopes."""
        slopes = (self.along(self.lateral) / 300) ** 2 + ((self.along(self.radial) - self.tangential) / 300) ** 2
        self.assertAlmostEqual(self.unknowns @ self.basis.geometric @ self.unknowns / self.total(slopes), 1, 9)

    def test_a_ring_moved_as_a_whole_stores_nothing(self) -> None:
        size = 9
        moved = np.zeros(4 * size)
        moved[1], moved[size + 2] = 1.0, -1.0
        self.assertAlmostEqual(float(np.abs(self.basis.elastic(1e6, 1e8, 1e8, 1e8) @ moved).max()), 0, 3)
        tipped = np.zeros(4 * size)
        tipped[2 * size + 1], tipped[3 * size + 1] = 1.0, -1 / 300
        self.assertAlmostEqual(float(np.abs(self.basis.elastic(1e6, 1e8, 1e8, 1e8) @ tipped).max()), 0, 6)


class Balanced(unittest.TestCase):
    def used(self, wheel=REAR, seed: int = 2) -> VirtualWheel:  # type: ignore[no-untyped-def]
        return used_wheel(wheel, np.random.default_rng(seed), 0.4)

    def pulls(self, virtual: VirtualWheel) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Where each spoke's ends stand and how it pulls, from where the rim stands alone."""
        wheel = virtual.wheel
        laced = lace(wheel)
        q = virtual.balance.unknowns
        size = 2 * virtual.highest + 1
        rows = harmonic_rows(laced.rim_angle_rad, virtual.highest)
        d = harmonic_derivative(virtual.highest)
        radial, tangential, lateral, twist = (rows @ q[size * k : size * k + size] for k in range(4))
        radius = wheel.rim.erd_mm / 2 + wheel.rim.centroid_depth_mm
        turn = np.column_stack([rows @ d @ q[2 * size : 3 * size] / radius, twist, (tangential - rows @ d @ q[:size]) / radius])
        arm = np.column_stack([np.full(len(twist), -wheel.rim.centroid_depth_mm), np.zeros(len(twist)), laced.seat_mm[:, 2]])
        swung = np.cross(turn, arm) + np.cross(turn, np.cross(turn, arm)) / 2
        local = np.column_stack([radius + radial, tangential, lateral]) + arm + swung
        cos, sin = np.cos(laced.rim_angle_rad), np.sin(laced.rim_angle_rad)
        seats = np.column_stack([cos * local[:, 0] - sin * local[:, 1], sin * local[:, 0] + cos * local[:, 1], local[:, 2]])
        way = laced.hub_hole_mm - seats
        return seats, way / np.linalg.norm(way, axis=1)[:, None], np.linalg.norm(way, axis=1)

    def test_the_hub_is_pulled_nowhere(self) -> None:
        """All spokes together pull neither hub nor rim aside, and turn neither about the axle."""
        for wheel in (REAR, SMALL, ALL["disc-rear-32"], ODD):
            virtual = self.used(wheel)
            _, way, _ = self.pulls(virtual)
            force = (virtual.tension_n[:, None] * way).sum(axis=0)
            with self.subTest(spokes=wheel.spoke_count):
                self.assertLess(np.abs(force).max(), 1.0)
                # Tens of thousands of newtons of pull in all.
                self.assertGreater(virtual.tension_n.sum(), 12_000)

    def test_each_spoke_is_stretched_as_it_pulls(self) -> None:
        """Length now less length unloaded is the pull over the stiffness; one turn shortens by the thread's pitch."""
        virtual = self.used(ODD)
        _, _, length = self.pulls(virtual)
        more = virtual.turned(np.where(np.arange(36) == 7, 0.25, 0.0))
        _, _, after = self.pulls(more)
        wheel = virtual.wheel
        span = lace(wheel).span_mm
        for i in np.flatnonzero((virtual.tension_n > 1) & (more.tension_n > 1)):
            stiffness = wheel.side(wheel.names[i].side).spoke.axial_stiffness_n_mm(span[i])
            shortened = 0.25 * 25.4 / 56 if i == 7 else 0.0
            pulled = stiffness * (after[i] - length[i] + shortened)
            self.assertAlmostEqual(more.tension_n[i] - virtual.tension_n[i], pulled, delta=0.5)

    def test_free_shapes(self) -> None:
        """An unloaded rim bent by a harmonic has that shape, and is not stretched by it."""
        size = 2 * 36 + 1
        bent = VirtualWheel.ideal(REAR).bent({3: 0.5 - 0.2j}, {2: 0.3 + 0.4j})
        rows = harmonic_rows(FINE, 36)
        radial, tangential, lateral, twist = (rows @ bent.free_shape[size * k : size * k + size] for k in range(4))
        np.testing.assert_allclose(lateral, 0.5 * np.cos(3 * FINE) - 0.2 * np.sin(3 * FINE), atol=1e-12)
        np.testing.assert_allclose(radial, 0.3 * np.cos(2 * FINE) + 0.4 * np.sin(2 * FINE), atol=1e-12)
        waves = np.fft.rfft(tangential)
        stretched = np.fft.irfft(1j * np.arange(len(waves)) * waves, len(FINE)) + radial
        np.testing.assert_allclose(stretched, 0, atol=1e-9)
        np.testing.assert_allclose(twist, 0)
        twice = bent.bent({3: 0.5 - 0.2j}, {})
        np.testing.assert_allclose(rows @ twice.free_shape[2 * size : 3 * size], 2 * lateral, atol=1e-12)

    def test_a_dent_is_a_gauss_at_its_place(self) -> None:
        """But for its mean and first harmonic, which move the rim as a whole."""
        size = 2 * 36 + 1
        dented = VirtualWheel.ideal(REAR).dented(80.0, 12.0, 2.0, -0.7)
        rows = harmonic_rows(FINE, 36)
        off = (np.degrees(FINE) - 80 + 180) % 360 - 180
        bell = np.exp(-(off**2) / (2 * 12.0**2))
        waves = np.fft.rfft(bell)
        waves[:2] = 0
        expected = np.fft.irfft(waves, len(FINE))
        np.testing.assert_allclose(rows @ dented.free_shape[:size], -2.0 * expected, atol=1e-3)
        np.testing.assert_allclose(rows @ dented.free_shape[2 * size : 3 * size], -0.7 * expected, atol=1e-3)
        inward = VirtualWheel.ideal(REAR).dented(80.0, 12.0, 2.0)
        np.testing.assert_allclose(rows @ inward.free_shape[2 * size : 3 * size], 0, atol=1e-12)

    def test_places_are_read_off_the_ring(self) -> None:
        virtual = self.used()
        angles = np.array([0.0, 33.0, 190.0])
        size = 2 * virtual.highest + 1
        rows = harmonic_rows(np.radians(angles), virtual.highest)
        unknowns = virtual.balance.unknowns
        np.testing.assert_allclose(virtual.lateral_mm(angles), rows @ unknowns[2 * size : 3 * size])
        np.testing.assert_allclose(virtual.radial_mm(angles), rows @ unknowns[:size] - unknowns[0])
        everywhere = np.linspace(0, 360, 721)[:-1]
        self.assertAlmostEqual(virtual.dish_mm, float(virtual.lateral_mm(everywhere).mean()), 6)

    def test_an_ideal_build_stands_at_its_targets_exactly_enough(self) -> None:
        for wheel in (REAR, ALL["disc-front-28"]):
            ideal = VirtualWheel.ideal(wheel)
            expected = wheel.rim.tension_target_n
            tight = ideal.tension_n.max()
            self.assertAlmostEqual(tight / expected, 1, delta=0.03)
            self.assertLess(abs(ideal.dish_mm), 0.08)


class Faults(unittest.TestCase):
    def test_stiffness_drawn_within_its_spread(self) -> None:
        drawn = [with_own_stiffness(REAR, np.random.default_rng(seed)) for seed in range(300)]
        for name in ("ei_lat_nm2", "ei_rad_nm2", "gj_nm2", "ea_n"):
            share = np.array([getattr(wheel.rim, name) / getattr(REAR.rim, name) for wheel in drawn])
            self.assertGreater(share.min(), 0.75)
            self.assertLess(share.max(), 1.25)
            # A uniform draw: its standard deviation is the width over the root of twelve.
            self.assertAlmostEqual(share.std(), 0.5 / np.sqrt(12), delta=0.012)
            self.assertAlmostEqual(share.mean(), 1, delta=0.04)
        self.assertNotEqual(drawn[0].rim.ei_lat_nm2 / REAR.rim.ei_lat_nm2, drawn[0].rim.ei_rad_nm2 / REAR.rim.ei_rad_nm2)

    def test_a_used_wheel(self) -> None:
        """Nipples wandered by their scatter, a common loss and a dish; rims out by harmonics 2 to 8, falling with the
        square."""
        drawn = [used_wheel(REAR, np.random.default_rng(seed), 0.3, 0.5, 0.2) for seed in range(120)]
        turns = np.array([wheel.turns for wheel in drawn])
        right = REAR.on_side(Side.RIGHT)
        self.assertAlmostEqual(turns[:, right].mean(), -0.5 + 0.2, delta=0.03)
        self.assertAlmostEqual(turns[:, ~right].mean(), -0.5 - 0.2, delta=0.03)
        self.assertAlmostEqual(turns[:, right].std(), 0.3, delta=0.02)
        size = 2 * 36 + 1
        shapes = np.array([wheel.free_shape for wheel in drawn])
        for start, most in ((2 * size, 0.12), (0, 0.05)):
            for m in (2, 3, 8):
                scatter = shapes[:, [start + 2 * m - 1, start + 2 * m]].std()
                self.assertAlmostEqual(scatter / (most * (2 / m) ** 2), 1, delta=0.18)
            self.assertEqual(np.abs(shapes[:, [start + 1, start + 2, start + 17, start + 18]]).max(), 0)

    def test_instruments(self) -> None:
        rng = np.random.default_rng(3)
        true = np.full(4000, 0.4)
        shown = dial_mm(true, rng, 1.1, 0.05)
        self.assertAlmostEqual(shown.mean(), -0.7, delta=0.005)
        self.assertAlmostEqual(shown.std(), 0.05, delta=0.005)
        np.testing.assert_allclose(shown, np.round(shown, 2))
        turned = turned_by_hand(np.full(4000, -0.5), rng, 0.1)
        self.assertAlmostEqual(turned.mean(), -0.5, delta=0.005)
        self.assertAlmostEqual(turned.std(), 0.05, delta=0.004)
        table = MeterTable(REAR.right.spoke.kind, (0.0, 10.0, 40.0), (0.0, 500.0, 2000.0), 0.5)
        virtual = VirtualWheel.ideal(REAR)
        shown_n = meter_readings(virtual, {table.spoke_kind: table}, rng, 0.0)
        for reading, tension in zip(shown_n, virtual.tension_n, strict=True):
            self.assertAlmostEqual(reading or 0, tension / 50, delta=0.26)
        self.assertEqual(set(meter_readings(virtual, {}, rng)), {None})
        slack = virtual.turned(np.where(np.arange(36) == 3, -6.0, 0.0))
        self.assertEqual(slack.tension_n[3], 0)
        self.assertEqual(meter_readings(slack, {table.spoke_kind: table}, rng, 0.0)[3], 0)
        noisy = np.array(
            [r for _ in range(40) for r in meter_readings(virtual, {table.spoke_kind: table}, rng, 60.0)], dtype=float
        )
        self.assertAlmostEqual(float((50 * noisy.reshape(40, -1) - virtual.tension_n).std()), 60, delta=6)

    def test_a_side_is_heard_at_its_tensions(self) -> None:
        virtual = used_wheel(SMALL, np.random.default_rng(8), 0.3)
        heard = plucks(plucked_side(virtual, Side.LEFT, np.random.default_rng(1), apart_s=0.5), 44_100)
        mine = [(i, name) for i, name in enumerate(SMALL.names) if name.side is Side.LEFT]
        self.assertEqual(len(heard), len(mine))
        for k, (tone, (i, name)) in enumerate(zip(heard, mine, strict=True)):
            self.assertAlmostEqual(
                tone.hz / pitch_of_tension(virtual.tension_n[i], free_length(SMALL, str(name))), 1, delta=0.015
            )
            self.assertAlmostEqual(tone.at_s, 0.2 + 0.5 * k, delta=0.03)
        whole = plucked_side(virtual, Side.LEFT, np.random.default_rng(1), apart_s=0.5)
        self.assertAlmostEqual(float(np.abs(whole).max()), 0.9)
        self.assertEqual(len(whole), 44_100 // 5 + len(mine) * 22_050)
        quiet = whole[: 44_100 // 5]
        self.assertLess(abs(float(quiet.mean())), 0.001)
        # A hundredth of the loudest is noise.
        self.assertAlmostEqual(float(quiet.std()) / 0.9, 0.01, delta=0.001)


class Hands(unittest.TestCase):
    def setUp(self) -> None:
        self.virtual = VirtualWheel.ideal(REAR)
        self.friction = np.full(36, 0.15)

    def limit(self, i: int, tighten: bool) -> float:
        side = REAR.side(REAR.names[i].side)
        return twist_turns(
            side.spoke, float(lace(REAR).span_mm[i]), side.pitch_mm, float(self.virtual.tension_n[i]), tighten, 0.15
        )

    def test_a_turn_goes_into_the_twist_first_and_the_rest_into_the_thread(self) -> None:
        for i, turn in ((4, 0.5), (5, -0.5)):
            turns = np.zeros(36)
            turns[i] = turn
            found = turn_nipples(self.virtual, turns, self.friction)
            limit = self.limit(i, turn > 0)
            self.assertAlmostEqual(found.twist_turns[i], np.sign(turn) * limit)
            self.assertAlmostEqual(found.turns[i], turn - np.sign(turn) * limit)
            self.assertEqual(np.count_nonzero(found.twist_turns), 1)
        little = np.zeros(36)
        little[4] = self.limit(4, True) / 2
        found = turn_nipples(self.virtual, little, self.friction)
        self.assertEqual((found.turns[4], found.twist_turns[4]), (0, little[4]))

    def test_a_blade_is_held_but_for_a_tenth(self) -> None:
        wheel = ALL["bladed-rear-24"]
        turns = np.zeros(24)
        turns[3] = 0.5
        found = turn_nipples(VirtualWheel.ideal(wheel), turns, np.full(24, 0.15))
        side = wheel.side(wheel.names[3].side)
        tension = float(VirtualWheel.ideal(wheel).tension_n[3])
        free = twist_turns(side.spoke, float(lace(wheel).span_mm[3]), side.pitch_mm, tension, True, 0.15)
        self.assertAlmostEqual(found.twist_turns[3], 0.1 * free)

    def test_settling_lets_a_share_into_the_thread(self) -> None:
        turns = np.zeros(36)
        turns[4] = 0.5
        twisted = turn_nipples(self.virtual, turns, self.friction)
        eased = settled(twisted, 0.7)
        self.assertAlmostEqual(eased.twist_turns[4], 0.3 * twisted.twist_turns[4])
        self.assertAlmostEqual(eased.turns[4], twisted.turns[4] + 0.7 * twisted.twist_turns[4])
        self.assertAlmostEqual(settled(twisted).turns[4], 0.5)

    def test_a_hand_that_goes_past_ends_where_it_meant(self) -> None:
        """On threads as oiled as it takes them for, but for how it misses."""
        turns = np.zeros(36)
        turns[4], turns[9] = 0.5, -0.5
        exact = Hand(self.friction, miss=0.0, settles=0.0)
        found = worked(self.virtual, turns, exact, np.random.default_rng(0))
        self.assertAlmostEqual(found.turns[4], 0.5, delta=0.02)
        self.assertAlmostEqual(found.turns[9], -0.5, delta=0.02)
        self.assertEqual(np.count_nonzero(found.turns), 2)
        careless = worked(self.virtual, turns, replace(exact, goes_past=False), np.random.default_rng(0))
        self.assertAlmostEqual(careless.turns[4], 0.5 - self.limit(4, True), 6)
        missing = worked(self.virtual, turns, replace(exact, miss=0.2, goes_past=False, settles=1.0), np.random.default_rng(0))
        drawn = np.random.default_rng(0).normal(0, 0.2, 36)
        self.assertAlmostEqual(missing.turns[4], 0.5 * (1 + drawn[4]), 6)

    def test_friction_drawn(self) -> None:
        hands = [Hand.drawn(self.virtual, np.random.default_rng(seed)) for seed in range(200)]
        means = np.array([hand.friction.mean() for hand in hands])
        self.assertGreater(means.min(), 0.10 * 0.9)
        self.assertLess(means.max(), 0.22 * 1.1)
        self.assertAlmostEqual(means.mean(), 0.16, delta=0.01)
        within = np.array([hand.friction / hand.friction.mean() for hand in hands])
        self.assertAlmostEqual(within.std(), 0.4 / np.sqrt(12), delta=0.01)
        self.assertEqual({hand.miss for hand in hands}, {0.04})
        self.assertEqual((hands[0].settles, hands[0].goes_past), (0.7, True))


if __name__ == "__main__":
    unittest.main()
