"""The heat balance assembled and solved, with thermostats at rest."""
