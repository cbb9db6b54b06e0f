"""The thermal model: one phenomenon a module; ``steady`` only assembles and solves."""
