"""Alembic migrations of the database."""
