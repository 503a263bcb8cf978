"""Density, geometry: what a composition weighs, and how layers lie in a piece.

Belongs here: formulas of matter and space. Must never happen here: a screen's pixels.
Imitate `density.py`.
"""
