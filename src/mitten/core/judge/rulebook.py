"""The rule book in words: every rule under its chapter, as it was registered."""

from dataclasses import dataclass
from typing import get_args

from mitten.core.judge.finding import Chapter, RuleEntry
from mitten.core.judge.safety import RULES


@dataclass(frozen=True)
class RuleChapter:
    """Rules of one kind."""

    title: Chapter
    rules: tuple[RuleEntry, ...]


def rule_book() -> tuple[RuleChapter, ...]:
    """Every chapter with its rules."""
    entries = [entry for rule in RULES for entry in rule.entries]
    return tuple(
        RuleChapter(title, tuple(entry for entry in entries if entry.chapter == title)) for title in get_args(Chapter)
    )


RULE_NAMES = frozenset(entry.name for rule in RULES for entry in rule.entries)
