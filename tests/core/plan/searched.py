"""Searches of the demo designs, each gone through once in a process: tests read the same one."""

from functools import cache

from mitten.core.plan.search import Brief, Progress, find_plans
from mitten.demo import demo_designs
from tests.catalogue import CATALOGUE


@cache
def found_for(name: str) -> Progress:
    """All that a search for a demo design came to."""
    design = next(one for one in demo_designs() if one.name == name)
    return find_plans(Brief(design, CATALOGUE))
