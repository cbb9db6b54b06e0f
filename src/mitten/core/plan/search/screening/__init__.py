"""Every combination at a glance: where sources can go, what each does on its own, what all that costs and is worth."""
