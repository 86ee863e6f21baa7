"""A wheel followed nipple by nipple, against one big least squares fit of everything at once and against the virtual wheel."""

from __future__ import annotations

from unittest import TestCase, mock

import numpy as np

from felloe.core.errors import UnknownSpoke
from felloe.core.mechanics import follow
from felloe.core.mechanics.estimate import DATUM_SD_MM, estimate_state, reading_rows
from felloe.core.mechanics.follow import Followed
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.joint import HAND_SHARE, RIM_LOG_SD, TWIST_SD_TURNS, turn_slopes
from felloe.core.mechanics.prior import Prior
from felloe.core.mechanics.readings import Readings, RunoutReading, TensionReading
from tests.bench.live import trace
from tests.bench.workshops import WORKSHOPS, Reader


def started(kind: str = "rim-brake-rear-36", seed: int = 11) -> tuple[Followed, object, np.random.Generator]:
    stand = WORKSHOPS["first"].start(kind, seed)
    state = estimate_state(influence_of(stand.wheel), stand.reader.full(stand.virtual, stand.rng))
    return Followed.begun(state), stand.virtual, stand.rng


class FollowTests(TestCase):
    def test_turn_by_turn_is_the_least_squares_fit_of_all_at_once(self) -> None:
        # Reference: numpy's lstsq on all rows, misses of the hand and zeros of the dials as unknowns of their own.
        begun, virtual, rng = started()
        state = begun.state
        turns = [(3, 0.5), (10, -0.25), (3, 0.25)]
        read = []
        now = virtual
        for number, (place, turn) in enumerate(turns):
            one = np.zeros(36)
            one[place] = turn
            now = now.turned(one)
            read.append(trace(now, Reader(), rng, ("lateral",), number))
        with mock.patch.object(follow, "ANEW_LOG", 99.0):
            at = begun
            for (place, turn), readings in zip(turns, read, strict=True):
                at = at.turned(place, turn).read(readings)
        unknowns, made = state.node_map.shape[1], len(turns)
        slopes_d, slopes_t, _ = turn_slopes(state)
        columns = unknowns + 2 * made
        rows, values = [], []
        values_of, vectors = np.linalg.eigh(begun.state.maps[2])
        keep = values_of > 1e-14
        prior_rows = np.zeros((keep.sum(), columns))
        prior_rows[:, :unknowns] = (vectors[:, keep] / np.sqrt(values_of[keep])).T
        moved_d, moved_t = state.displacement.copy(), state.tension_n.copy()
        logs_d = np.zeros((len(moved_d), 3))
        misses = np.zeros((len(moved_d), made))
        for k, ((place, turn), readings) in enumerate(zip(turns, read, strict=True)):
            moved_d = moved_d + turn * state.influence.displacement[:, place]
            moved_t = moved_t + turn * state.influence.tension_n[:, place]
            logs_d = logs_d + turn * slopes_d[:, :, place].T
            misses = misses.copy()
            misses[:, k] = state.influence.displacement[:, place]
            node = np.column_stack([state.node_map[:, :-3], logs_d, misses, moved_d])
            flat = Prior(node, np.zeros((36, node.shape[1])), np.zeros(36), np.zeros(node.shape[1]))
            found, shown, sds = reading_rows(state.influence, flat, readings)
            row = np.zeros((len(shown), columns))
            row[:, : unknowns + made] = found[:, : unknowns + made]
            row[:, unknowns + made + k] = found[:, -1]
            rows.append(row / sds[:, None])
            values.append((shown - found[:, unknowns + made]) / sds)
        own = np.zeros((2 * made, columns))
        spread = [np.hypot(HAND_SHARE * turn, TWIST_SD_TURNS) for _, turn in turns] + [DATUM_SD_MM] * made
        own[:, unknowns:] = np.diag(1 / np.array(spread))
        matrix = np.vstack([*rows, prior_rows, own])
        answer = np.linalg.lstsq(matrix, np.concatenate([*values, np.zeros(len(prior_rows) + 2 * made)]), rcond=None)[0]
        tension = moved_t + np.column_stack(
            [
                state.maps[0][:, :-3],
                sum(turn * slopes_t[:, :, place].T for place, turn in turns),
                *[state.influence.tension_n[:, [place]] for place, _ in turns],
            ]
        ) @ np.concatenate([answer[: unknowns + made]])
        np.testing.assert_allclose(at.state.tension_n, tension, atol=0.5)
        np.testing.assert_allclose(at.logs, answer[unknowns - 3 : unknowns], atol=5e-3)

    def test_what_turns_show_of_the_rim_is_learnt(self) -> None:
        stand = WORKSHOPS["second"].start("rear-24-two-to-one", 301)
        true = np.log(stand.virtual.wheel.rim.ei_lat_nm2 / stand.wheel.rim.ei_lat_nm2)
        self.assertGreater(true, 0.25)
        at = Followed.begun(estimate_state(influence_of(stand.wheel), stand.reader.full(stand.virtual, stand.rng)))
        virtual = stand.virtual
        for number, (place, turn) in enumerate([(1, -0.5), (5, -0.5), (9, -0.5), (14, -0.5)]):
            one = np.zeros(24)
            one[place] = turn
            virtual = virtual.turned(one)
            at = at.turned(place, turn).read(trace(virtual, stand.reader, stand.rng, ("lateral", "radial"), number))
        doubt = at.state.doubt
        assert doubt is not None
        self.assertLess(abs(doubt.factor_logs[0] - true), 0.15)
        self.assertLess(np.sqrt(doubt.covariance[0, 0]), RIM_LOG_SD)
        worst = np.abs(at.state.tension_n - virtual.tension_n).max()
        self.assertLess(worst, 80.0)

    def test_a_turn_alone_makes_it_less_sure_and_a_look_surer(self) -> None:
        begun, virtual, rng = started()
        turned = begun.turned(4, 0.5)
        self.assertGreater(turned.state.tension_sd_n[4], begun.state.tension_sd_n[4])
        self.assertGreater(turned.state.lateral_sd_mm.sum(), begun.state.lateral_sd_mm.sum())
        one = np.zeros(36)
        one[4] = 0.5
        looked = turned.read(trace(virtual.turned(one), Reader(), rng, ("lateral", "radial"), 0))
        self.assertLess(looked.state.lateral_sd_mm.sum(), turned.state.lateral_sd_mm.sum())

    def test_a_turn_that_was_not_made_is_unlike_what_is_seen(self) -> None:
        begun, virtual, rng = started()
        one = np.zeros(36)
        one[4] = 1.0
        seen = trace(virtual.turned(one), Reader(), rng, ("lateral", "radial"), 0)
        as_noted, other = (begun.turned(4, turns).read(seen).unlikeness for turns in (1.0, 0.0))
        self.assertGreater(other - as_noted, 50)

    def test_a_slack_spoke_may_take_up_its_slack_first(self) -> None:
        begun, _, _ = started()
        name = str(begun.state.wheel.names[6])
        slack = begun.read(Readings(tension=[TensionReading(name, 0.0, 5.0)]))
        tight = begun.turned(6, 0.5).state.tension_sd_n[6]
        self.assertGreater(slack.turned(6, 0.5).state.tension_sd_n[6], 2 * tight)

    def test_one_value_of_a_dial_that_stood_counts_and_of_one_that_was_moved_does_not(self) -> None:
        begun, virtual, _ = started()
        one = np.zeros(36)
        one[8] = 1.0
        angle = begun.state.wheel.angles_deg[8]
        true = virtual.turned(one).lateral_mm(np.array([angle]))[0] - virtual.lateral_mm(np.array([angle]))[0]
        before = float(begun.state.lateral_mm[8] + begun.state.dish_mm)
        shown = Readings(lateral=[RunoutReading(angle, before + float(true) + begun.zeros()["lateral", 0], 0.03)])
        turned = begun.turned(8, 0.5)
        moved = turned.read(shown)
        np.testing.assert_allclose(moved.state.lateral_mm, turned.state.lateral_mm, atol=1e-3)
        stood = turned.read(shown, begun.zeros())
        self.assertLess(
            abs(float(stood.state.lateral_mm[8] + stood.state.dish_mm) - before - true),
            abs(float(turned.state.lateral_mm[8] + turned.state.dish_mm) - before - true) / 2,
        )

    def test_a_spoke_that_is_not_there_is_refused(self) -> None:
        begun, _, _ = started()
        with self.assertRaises(UnknownSpoke):
            begun.read(Readings(tension=[TensionReading("R40", 900.0)]))
