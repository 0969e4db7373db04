"""The server: plans by noun, errors as problem details, the built screens."""
