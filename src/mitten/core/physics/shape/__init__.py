"""Where the patches are and what sees what."""
