"""Speed, as medians and ratios beside general-purpose libraries. ``python -m bench`` runs all."""
