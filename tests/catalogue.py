"""The catalogue that ships with Mitten, as tests are given it."""

from mitten.core.catalogue import shipped_catalogue

CATALOGUE = shipped_catalogue()
