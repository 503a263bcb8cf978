"""Adapting a version to a rule: whole proposals, worked out, each of one system.

Belongs here: rules, swaps and what follows from them. Must never happen here: how amounts are solved (formulate).
Imitate `rules.py`.
"""

from fern_match.core.adapt.keep import kept
from fern_match.core.adapt.propose import Adapted, Proposal, Unmet, adapted
from fern_match.core.adapt.rules import BadRule, Breach, Rule, breaches, rule_choices, rules_of, shipped_rules, suggested_limits

__all__ = [
    "Adapted",
    "BadRule",
    "Breach",
    "Proposal",
    "Rule",
    "Unmet",
    "adapted",
    "breaches",
    "kept",
    "rule_choices",
    "rules_of",
    "shipped_rules",
    "suggested_limits",
]
