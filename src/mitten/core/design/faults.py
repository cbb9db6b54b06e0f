"""What is wrong with a design, in the keeper's words."""

from collections.abc import Sequence
from dataclasses import dataclass

from mitten.core.design.amounts import plain


class MittenError(Exception):
    """Base of the project's errors; its text is a sentence for the keeper."""


@dataclass(frozen=True)
class Fault:
    """One thing that is wrong: the key's path (``heaters[0].watts``) and a plain sentence."""

    path: str
    sentence: str

    def __str__(self) -> str:
        sentence = plain(self.sentence)
        return f"{self.path}: {sentence}" if self.path else sentence


class BadDesignError(MittenError):
    """A design that cannot be used; carries every fault that was found."""

    def __init__(self, faults: Sequence[Fault]) -> None:
        self.faults = tuple(faults)
        super().__init__("\n".join(str(fault) for fault in self.faults))
