"""Equilibria, kinetics, plates at rest and under load, accounts of a voltage."""
