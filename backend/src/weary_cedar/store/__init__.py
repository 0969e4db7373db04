"""Plans and their revisions in SQLite."""
