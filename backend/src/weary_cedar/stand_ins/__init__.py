"""Small simulated devices, so that everything can be tried without the real ones."""
