"""How versions and layers begin and change: from the estimate, a family, a recipe, another version.

Belongs here: making one version from something else. Must never happen here: rules that a version is adapted under.
Imitate `changing.py`.
"""
