"""Run every bench and print what it found."""

from bench import accuracy, briefs, browser, days, plans, steady
from mitten.core.physics.threads import use_one_thread


def main() -> None:
    """Run all benches, one after another: they share two cores."""
    use_one_thread()
    for lines in (steady.run(), accuracy.run(), days.run(), plans.run(), browser.run(), briefs.run()):
        for line in lines:
            print(line, flush=True)


main()
