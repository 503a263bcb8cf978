"""Thermometers and scales: what a device answers, and the simulated ones that ship.

Belongs here: whatever reads a thermometer or a scale. Must never happen here: what a reading means for the cook.
Imitate `simulated.py`.
"""

from fern_match.devices.device import Device, Measured
from fern_match.devices.simulated import SimulatedPan

__all__ = ["Device", "Measured", "SimulatedPan"]
