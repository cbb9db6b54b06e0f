"""View models: what a template shows, worked out, so that templates hold no logic and routes no arithmetic."""
