"""``python -m mitten`` is the ``mitten`` command."""

from mitten.cli import main

main()
