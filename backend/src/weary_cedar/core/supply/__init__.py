"""How sources behave."""
