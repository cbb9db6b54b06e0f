"""The common base of catalogue entries."""

from collections.abc import Mapping
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field
from pydantic_core import PydanticCustomError

STARTING_POINT = "starting point to verify"


class Figures(BaseModel):
    """Frozen figures within an entry."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


NOT_AS_VOWELS = ("uv", "uni", "us", "eu", "one")
"""How words begin that are said with a consonant, though they are written with a vowel."""


AS_VOWELS = ("8", "11 ", "18 ")
"""How figures begin that are said with a vowel: eight, eleven, eighteen."""


def with_article(words: str) -> str:
    """``a ceramic emitter``, ``an incandescent reflector``, ``a UV tube``, ``an 80 W lamp``."""
    begins = words.lower()
    is_vowel = begins.startswith(tuple("aeiou")) and not begins.startswith(NOT_AS_VOWELS)
    return f"{'an' if is_vowel or begins.startswith(AS_VOWELS) else 'a'} {words}"


def odd(path: str, said: str, others: tuple[str, ...] = ()) -> PydanticCustomError:
    """A figure that does not agree with others: its path below what is checked, theirs, and what is said of it."""
    return PydanticCustomError("odd_figure", "{path}: {said}", {"path": path, "said": said, "others": others})


class Entry(Figures):
    """A frozen entry of a TOML table; ``label`` is what the keeper reads.

    ``origin`` says where its figures come from, ``notes`` the keeper's own source by the path of a figure.
    """

    label: Annotated[str, Field(min_length=1, max_length=80)]
    origin: Annotated[str, Field(max_length=200)] = STARTING_POINT
    notes: Mapping[str, Annotated[str, Field(max_length=200)]] = Field(default_factory=dict)

    def __hash__(self) -> int:
        # By hand, because notes are a mapping; equal entries have the same, and entries of a table differ in it.
        return hash((type(self), self.label, self.origin))

    @property
    def with_article(self) -> str:
        """Its label with an article, as it stands within a sentence."""
        return with_article(self.label)

    def origin_of(self, path: str) -> str:
        """Where one figure comes from."""
        return self.notes.get(path, self.origin)


Share = Annotated[float, Field(ge=0.0, le=1.0)]
Positive = Annotated[float, Field(gt=0.0, le=1e6)]

# Bounds of what there is, wide of all that is sold or lives: a slip of the keyboard is told from a figure.
Celsius = Annotated[float, Field(ge=-20.0, le=100.0)]
ServiceCelsius = Annotated[float, Field(ge=30.0, le=2000.0)]
ConductivityWMK = Annotated[float, Field(ge=0.01, le=500.0)]
HeatCapacityMJM3K = Annotated[float, Field(ge=0.005, le=10.0)]
Emissivity = Annotated[float, Field(ge=0.02, le=1.0)]
Watts = Annotated[float, Field(ge=0.5, le=5000.0)]
HalfAngleDeg = Annotated[float, Field(ge=3.0, le=80.0)]
FaceM = Annotated[float, Field(ge=0.0, le=0.5)]
SizeM = Annotated[float, Field(ge=0.01, le=12.0)]
UvIndex = Annotated[float, Field(ge=0.0, le=50.0)]
