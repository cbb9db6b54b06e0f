"""Invented enclosures to look at first."""

from mitten.demo.scenes import demo_designs

__all__ = ["demo_designs"]
