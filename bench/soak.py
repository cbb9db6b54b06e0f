"""A soak of the model: random realistic designs in every condition, and what must hold for each of them.

    python -m bench.soak [designs] [first seed]

Prints every design that breaks a rule, and how many there are; a slice of it runs in the tests.
"""

import sys
from collections import Counter
from collections.abc import Iterator

from tests.random_designs import random_design
from tests.soaking import faults_of_seed, faults_of_stacks, jumps_of_seed
from tests.soaking_in_time import faults_in_time_of

from mitten.core.physics.threads import use_one_thread

DESIGNS = 300
JUMPS_EVERY, TIME_EVERY = 5, 20
"""Moving everything by centimetres takes twenty times as long, and going through days, failures and a year a hundred
times: of so many designs one is moved, or gone through.
"""


def main(count: int = DESIGNS, first: int = 0) -> None:
    """Go through the designs and print what is wrong with them."""
    use_one_thread()
    kinds: Counter[str] = Counter()
    for seed in range(first, first + count):
        for fault in _faults(seed):
            kinds[fault.partition(":")[0]] += 1
            print(f"seed {seed}: {fault}", flush=True)
    print(f"{count} designs, {sum(kinds.values())} faults: {dict(kinds)}")


def _faults(seed: int) -> Iterator[str]:
    yield from faults_of_seed(seed)
    yield from faults_of_stacks(seed)
    if seed % JUMPS_EVERY == 0:
        yield from jumps_of_seed(seed)
    if seed % TIME_EVERY == 0:
        yield from faults_in_time_of(random_design(seed))


if __name__ == "__main__":
    main(*(int(text) for text in sys.argv[1:3]))
