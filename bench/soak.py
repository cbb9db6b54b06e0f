"""A soak of the model: random realistic designs in every condition, and what must hold for each of them.

    python -m bench.soak [designs] [first seed]

Prints every design that breaks a rule, and how many there are; a slice of it runs in the tests.
"""

import sys
from collections import Counter

from tests.soaking import faults_of_seed, jumps_of_seed

from mitten.core.physics.threads import use_one_thread

DESIGNS = 300
JUMPS_EVERY = 5
"""Moving everything by centimetres takes twenty times as long: of so many designs one is moved."""


def main(count: int = DESIGNS, first: int = 0) -> None:
    """Go through the designs and print what is wrong with them."""
    use_one_thread()
    kinds: Counter[str] = Counter()
    for seed in range(first, first + count):
        faults = [*faults_of_seed(seed), *(jumps_of_seed(seed) if seed % JUMPS_EVERY == 0 else ())]
        for fault in faults:
            kinds[fault.partition(":")[0]] += 1
            print(f"seed {seed}: {fault}", flush=True)
    print(f"{count} designs, {sum(kinds.values())} faults: {dict(kinds)}")


if __name__ == "__main__":
    main(*(int(text) for text in sys.argv[1:3]))
