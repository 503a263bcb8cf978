"""Fern Match: from a candy bar's label and a few weighings to a batch to weigh out."""

__version__ = "0.1.0"
