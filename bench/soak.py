"""A soak of the model: random realistic designs in every condition, and what must hold for each of them.

    python -m bench.soak [designs] [first seed]

Prints every design that breaks a rule, and how many there are; the same checks run on a few designs in the tests.
"""

import sys
from collections import Counter

from tests.soaking import faults_of_seed

from mitten.core.physics.threads import use_one_thread

DESIGNS = 300


def main() -> None:
    """Go through the designs and print what is wrong with them."""
    use_one_thread()
    count, first = (int(text) for text in (*sys.argv[1:3], *("", "")[: 0])) if len(sys.argv) == 3 else (
        int(sys.argv[1]) if len(sys.argv) > 1 else DESIGNS, 0,
    )  # fmt: skip
    kinds: Counter[str] = Counter()
    for seed in range(first, first + count):
        for fault in faults_of_seed(seed):
            kinds[fault.partition(":")[0]] += 1
            print(f"seed {seed}: {fault}", flush=True)
    print(f"{count} designs, {sum(kinds.values())} faults: {dict(kinds)}")


if __name__ == "__main__":
    main()
