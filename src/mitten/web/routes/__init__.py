"""Routes by page; each asks the store and the core, and hands a view to a template."""
