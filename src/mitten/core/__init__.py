"""The job itself: no web, no database, no clock."""
