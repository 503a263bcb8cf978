"""Files of older versions brought up to date, one version at a time; a step never changes once it was published.

Version 1 to 2: readings became entries with ids, placements and corrections are looked up by their names, amounts of versions
are typed texts, and ids became fit to stand in an address.
"""

import re
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from fern_match.exchange.content import FORMAT_VERSION

Plain = dict[str, Any]
_ID = re.compile(r"[A-Za-z0-9][A-Za-z0-9_-]{0,79}")
_BALANCED_G = 1e-6


def upgraded(raw: Plain) -> Plain:
    """A match file of any version as one of today's; what no version knows is left for the reader to refuse.

    Raises:
        KeyError, TypeError, AttributeError, ValueError: it is not in the shape its version says.
    """
    while raw.get("version") in _STEPS:
        raw = _STEPS[raw["version"]](raw)
    return raw


def from_1_to_2(raw: Plain) -> Plain:
    """The step from version 1.

    Args:
        raw: A whole match file of version 1.
    """
    layers = _fit_ids(_layer_ids(raw))
    versions = _fit_ids(version["id"] for version in raw.get("versions", ()))
    versions |= _fit_ids(plan["version"] for plan in raw.get("batches", ()) if plan["version"] not in versions)
    batches = _fit_ids(plan["id"] for plan in raw.get("batches", ()))
    return {
        **raw,
        "version": 2,
        "study": _study_from_1(raw["study"], layers),
        "versions": [_version_from_1(version, layers, versions) for version in raw.get("versions", ())],
        "batches": [
            {
                **plan,
                "id": batches[plan["id"]],
                "version": versions[plan["version"]],
                "left_on_tools": {layers[key]: typed for key, typed in plan.get("left_on_tools", {}).items()},
                "in_house": {_fit_id(key): typed for key, typed in plan.get("in_house", {}).items()},
            }
            for plan in raw.get("batches", ())
        ],
    }


def _study_from_1(study: Plain, layers: Mapping[str, str]) -> Plain:
    kept = {key: value for key, value in study.items() if key != "weighings"}
    placements: dict[str, dict[str, str]] = {}
    for one in study.get("placements", ()):
        placements.setdefault(one["item"], {})[layers[one["layer"]]] = one["where"]
    return {
        **kept,
        "corrections": {one["item"]: _fit_id(one["ingredient"]) for one in study.get("corrections", ())},
        "layers": [
            {
                **layer,
                "id": layers[layer["id"]],
                "family": _fit_id(layer["family"]),
                "host": layers[layer["host"]] if layer.get("host") is not None else None,
            }
            for layer in study.get("layers", ())
        ],
        "placements": placements,
        "readings": _readings_from_1(study.get("weighings", ()), layers),
        "doubted": sorted({_evidence_from_1(key, layers) for key in study.get("doubted", ())}),
    }


def _readings_from_1(weighings: Iterable[Plain], layers: Mapping[str, str]) -> list[Plain]:
    """Readings get ids by subject and number, so that one reading keeps its id through a match's history."""
    readings: list[Plain] = []
    counts: dict[str, int] = {}
    for weighing in weighings:
        subject = layers[weighing["subject"]]
        for typed in weighing["readings"]:
            counts[subject] = counts.get(subject, 0) + 1
            readings.append({"id": f"{subject[:60]}-{counts[subject]}", "subject": subject, "typed": typed})
    return readings


def _evidence_from_1(key: str, layers: Mapping[str, str]) -> str:
    kind, _, rest = key.partition(":")
    if kind == "weighing" and rest in layers:
        return f"weighing:{layers[rest]}"
    if kind == "rule":
        layer, _, what = rest.rpartition(":")
        return f"rule:{layers.get(layer, layer)}:{what}"
    return key


def _version_from_1(version: Plain, layers: Mapping[str, str], versions: Mapping[str, str]) -> Plain:
    parent = version.get("parent")
    return {
        **version,
        "id": versions[version["id"]],
        "parent": _fit_id(parent) if parent is not None else None,
        "origin": {"kind": "estimate"} if parent is None else {"kind": "hand"},
        "layers": [_version_layer_from_1(layer, layers) for layer in version["layers"]],
    }


def _version_layer_from_1(layer: Plain, layers: Mapping[str, str]) -> Plain:
    """The finished weight is not kept any more: it is what is added less the water lost."""
    kept = {key: value for key, value in layer.items() if key not in {"layer", "finished_g", "water_lost_g", "ingredients"}}
    added = sum(float(one["grams"]) for one in layer["ingredients"])
    lost, finished = float(layer["water_lost_g"]), float(layer["finished_g"])
    if abs(added - lost - finished) > _BALANCED_G and added >= finished:
        lost = added - finished
    return {
        **kept,
        "id": layers[layer["layer"]],
        "family": _fit_id(layer["family"]),
        "water_lost": _grams_text(lost),
        "ingredients": [
            {
                **{key: value for key, value in one.items() if key != "grams"},
                "id": f"line-{number}",
                "ingredient": _fit_id(one["ingredient"]),
                "amount": _grams_text(float(one["grams"])),
            }
            for number, one in enumerate(layer["ingredients"], 1)
        ],
    }


def _grams_text(grams: float) -> str:
    return f"{grams:.9f}".rstrip("0").rstrip(".") + " g"


def _layer_ids(raw: Plain) -> Iterable[str]:
    study = raw["study"]
    for layer in study.get("layers", ()):
        yield layer["id"]
        if layer.get("host") is not None:
            yield layer["host"]
    yield from (one["subject"] for one in study.get("weighings", ()))
    yield from (one["layer"] for one in study.get("placements", ()))
    for version in raw.get("versions", ()):
        yield from (layer["layer"] for layer in version["layers"])
    for plan in raw.get("batches", ()):
        yield from plan.get("left_on_tools", {})


def _fit_ids(ids: Iterable[str]) -> dict[str, str]:
    """Ids as they may be today: a fit one stays, another gets one that nobody has."""
    known = list(dict.fromkeys(ids))
    taken = {key for key in known if _ID.fullmatch(key)}
    fit = {key: key for key in taken}
    for key in known:
        if key not in fit:
            stem = _fit_id(key)
            found = next(name for number in range(1, len(known) + 2) if (name := f"{stem}-{number}") not in taken)
            taken.add(found)
            fit[key] = found
    return fit


def _fit_id(key: str) -> str:
    if _ID.fullmatch(key):
        return key
    return re.sub(r"[^A-Za-z0-9]+", "-", key).strip("-")[:60].strip("-") or "x"


_STEPS: Mapping[Any, Callable[[Plain], Plain]] = {1: from_1_to_2}
assert max(_STEPS) + 1 == FORMAT_VERSION
