"""The drill: exercises on the house’s own panel, and questions from its own figures."""
