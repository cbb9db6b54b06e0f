"""What the sources send, how the surfaces exchange it, and what meters make of it."""
