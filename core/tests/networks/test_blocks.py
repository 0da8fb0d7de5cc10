"""Blocks of the heat network's matrix: entries as many as positions, energy of every link closed, flow upwind."""

import numpy as np
import pytest
from frozen.answers import machine, machine_names

from krill.networks.blocks import FlowBlock, PairBlock, own_weight
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of


@pytest.fixture(params=machine_names())
def solved(request):
    build = machine(request.param)
    return solve_cases(build, cases_of(build, None, None))


def filled(solved, block, own):
    """The block alone as a matrix (node, node) of the first case."""
    G = getattr(solved.solution.conductance, own) if own else np.zeros((1, 0))
    entries = block.entries(G, solved.solution.streams)
    assert entries.shape[1] == len(block.positions)
    matrix = np.zeros((solved.structure.nodes, solved.structure.nodes))
    for (row, column), value in zip(block.positions, entries[0], strict=True):
        matrix[row, column] += value
    return matrix


def test_what_leaves_one_node_of_a_link_arrives_at_another(solved):
    """Every link that is no flow: columns sum to zero (nothing made or lost), rows too (no heat at equal warmth)."""
    for block, own in solved.network.pattern.blocks:
        if isinstance(block, FlowBlock):
            continue
        matrix = filled(solved, block, own)
        scale = np.abs(matrix).max()
        assert np.abs(matrix.sum(axis=0)).max() <= 1e-12 * scale, own
        assert np.abs(matrix.sum(axis=1)).max() <= 1e-12 * scale, own


def test_a_flow_carries_nothing_at_equal_warmth_where_as_much_enters_as_leaves(solved):
    outside = set(solved.network.pattern.given.tolist())
    for block, own in solved.network.pattern.blocks:
        if isinstance(block, FlowBlock):
            matrix = filled(solved, block, own)
            inside = [node for node in range(solved.structure.nodes) if node not in outside]
            assert np.abs(matrix.sum(axis=1))[inside].max() <= 1e-6 * np.abs(matrix).max()


def test_a_pair_is_a_plain_conductance():
    block = PairBlock([(0, 1)])
    assert block.positions == [(0, 0), (0, 1), (1, 1), (1, 0)]
    assert block.entries(np.array([[2.5]]), []).tolist() == [[-2.5, 2.5, -2.5, 2.5]]


@pytest.mark.parametrize(
    ("conductance", "flow", "share"),
    [(1.0, 10.0, 0.5), (2.0, 1.0, 0.5), (2.001, 1.0, 0.50025), (10.0, 1.0, 0.9), (5.0, 0.0, 1.0)],
)
def test_mean_coolant_is_half_way_until_the_plate_saturates(conductance, flow, share):
    assert float(own_weight(np.array(conductance), np.array(flow))) == pytest.approx(share, abs=1e-5)
