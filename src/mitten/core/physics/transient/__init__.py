"""The box in time: the same patches, zones, films, flows and radiation as the steady state, and what they store."""
