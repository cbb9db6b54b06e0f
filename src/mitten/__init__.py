"""Mitten computes the temperatures of a reptile enclosure before anything is bought."""

__version__ = "0.1.0"
