"""Handbook functions: split-phase legs, conductors, voltage drop."""
