"""What the user wrote down about an original, and how it is read.

Belongs here: the record as typed, its reading, what is where. Must never happen here: an estimate.
Imitate `reading.py`.
"""
