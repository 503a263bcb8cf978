"""The job's rules and computation, pure: no framework, database, network, clock or globals.

Nothing here may import from the layers around it (store, exchange, api, demo, cli); a test reads the imports.
Imitate `core/label/intervals.py`: one unit per quantity, a range that is code, the source beside the formula.
"""
