"""No figure moves unseen: every answer of every recipe, saved document and stored log against what was frozen."""

import pytest
from frozen.answers import frozen_answers
from frozen.freezing import file_of, frozen, moved, names


@pytest.mark.slow
@pytest.mark.parametrize("name", names())
def test_no_frozen_figure_moved(name):
    lines = moved(frozen(name), frozen_answers(name))
    assert not lines, f"{len(lines)} figures moved; if they should, run bin/freeze and read its diff:\n" + "\n".join(
        lines[:40]
    )


def test_every_frozen_file_has_its_machine_or_log():
    assert {path.stem for path in file_of("x").parent.glob("*.json")} == set(names())


def test_a_moved_figure_is_seen_and_noise_is_not():
    assert moved({"a": 1.0}, {"a": 1.0 + 5e-7}) == []
    assert moved({"a": [1.0, 2.0]}, {"a": [1.0, 2.00001]}) == ["! a: [1.0, 2.0] -> [1.0, 2.00001]"]
    assert moved({"a": "holds"}, {"a": "tight"})
    assert moved({"a": True}, {"a": 1})
    assert moved({"a": 1.0}, {}) == ["- a: 1.0"]
    assert moved({}, {"a": 1.0}) == ["+ a: 1.0"]
