"""Conduction in the ground, the slabs and the panels."""
