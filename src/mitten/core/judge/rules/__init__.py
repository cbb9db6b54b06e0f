"""Safety rules by what they look at: gear, heat, control."""
