"""Which tests hold values; apart from all else, so that whoever asks loads nothing that is tested."""

HOLDING = (
    "tests/core/test_held.py", "tests/core/plan/year/test_year.py", "tests/core/plan/test_front.py",
    "tests/core/plan/test_comparing_probes.py", "tests/web/test_held_edits.py", "tests/draw/test_marks.py",
    "tests/test_held_reports.py", "tests/web/test_held_answers.py",
)  # fmt: skip
"""Tests that hold something."""
