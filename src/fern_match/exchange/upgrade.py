"""What older versions wrote, brought up to date one version at a time; a step never changes once it was published.

From version 2 on a step works on one part (a study, a version, an ingredient) by its kind, so that a file and what is kept under
its hash for years are brought up alike, at reading. Only version 1 is brought up as a whole file.

Version 1 to 2: readings became entries with ids, placements and corrections are looked up by their names, amounts of versions
are typed texts, and ids became fit to stand in an address.
Version 2 to 3: that an ingredient's allergens are not known became another thing than that it has none. Version 2 wrote an empty
list for both: what is not of the shipped table, or lost its figures to a file of a few columns, counts as not known.
Version 3 to 4: kitchens have gear, packs and what they lack, batches say in what they are made. What version 3 wrote is read
as it is; a program of version 3 says of a newer file that it is newer, and not that something in it is wrong.
Version 4 to 5: matches have cooks, kitchens say how many cooks, burners, ovens and fridges there are. What version 4 wrote is
read as it is.
Version 5 to 6: versions keep the recipe they are from, batches have lots and wrapping, kitchens what pieces are wrapped in, and
a file the gear that its batches use.
"""

import re
from collections.abc import Callable, Collection, Iterable, Mapping
from typing import Any

from fern_match.core.food import standard_pantry
from fern_match.exchange.content import FORMAT_VERSION

Plain = dict[str, Any]
_ID = re.compile(r"[A-Za-z0-9][A-Za-z0-9_-]{0,79}")
_BALANCED_G = 1e-6
_GROUP = 3  # decimals that alone could be a group of thousands


def upgraded(raw: Plain) -> Plain:
    """A match file of any version as one of today's; what no version knows is left for the reader to refuse.

    Raises:
        KeyError, TypeError, AttributeError, ValueError: it is not in the shape its version says.
    """
    if raw.get("version") == 1:
        raw = from_1_to_2(raw)
    version = raw["version"]
    return {**parts_upgraded({key: value for key, value in raw.items() if key != "version"}, version), "version": FORMAT_VERSION}


def parts_upgraded(whole: Plain, version: int) -> Plain:
    """A whole with each of its parts as one of today's.

    Args:
        whole: By kind of part: one part, or a list of them.
        version: That wrote it, 2 or more.
    """
    return {
        kind: [part_upgraded(kind, part, version) for part in found]
        if isinstance(found, list)
        else part_upgraded(kind, found, version)
        if isinstance(found, dict)
        else found
        for kind, found in whole.items()
    }


def part_upgraded(kind: str, part: Plain, version: int) -> Plain:
    """A part as one of today's.

    Args:
        kind: What part of a whole it is: study, versions, pinned.
        part: Its plain values.
        version: That wrote it, 2 or more.
    """
    for step in range(version, FORMAT_VERSION):
        part = _PART_STEPS[step](kind, part)
    return part


def _part_from_2(kind: str, part: Plain) -> Plain:
    if kind in {"pinned", "ingredients"}:
        return _ingredient_from_2(part)
    origin = part.get("origin") if kind == "versions" else None
    return {**part, "origin": {**origin, "kind": "hand"}} if origin and origin.get("kind") == "solved" else part


def _part_from_3(_kind: str, part: Plain) -> Plain:
    """Nothing is written otherwise; a kitchen had no gear, and a batch went by pieces, which is what they begin with."""
    return part


def _part_from_4(_kind: str, part: Plain) -> Plain:
    """Nothing is written otherwise: there were no cooks yet."""
    return part


def _part_from_5(_kind: str, part: Plain) -> Plain:
    """Nothing is written otherwise: there were no lots, no wrapping and no recipe texts yet."""
    return part


def _part_from_6(_kind: str, part: Plain) -> Plain:
    """Nothing is written otherwise: there were no trials, no photos and no marks of the original yet."""
    return part


def _ingredient_from_2(food: Plain) -> Plain:
    known = food["id"] in standard_pantry() and food.get("category") != "own"
    return {**food, "allergens_known": known or bool(food.get("allergens"))}


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
    """A weight as a field of today's holds it: three decimals alone could be a group of thousands."""
    text = f"{grams:.9f}".rstrip("0").rstrip(".")
    return f"{text}0 g" if len(text.partition(".")[2]) == _GROUP else f"{text} g"


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
    tried: dict[str, int] = {}  # stem -> the last number that was looked at
    for key in known:
        if key not in fit:
            stem = _fit_id(key)
            number = tried.get(stem, 0) + 1
            while (found := f"{stem}-{number}") in taken:
                number += 1
            tried[stem] = number
            taken.add(found)
            fit[key] = found
    return fit


def _fit_id(key: str) -> str:
    if _ID.fullmatch(key):
        return key
    return re.sub(r"[^A-Za-z0-9]+", "-", key).strip("-")[:60].strip("-") or "x"


_PART_STEPS: Mapping[int, Callable[[str, Plain], Plain]] = {
    2: _part_from_2,
    3: _part_from_3,
    4: _part_from_4,
    5: _part_from_5,
    6: _part_from_6,
}
# The kinds of parts that each version knows: a new kind needs a new version, so that an older program says what it cannot read.
KINDS: Mapping[int, Collection[str]] = {
    3: frozenset({"study", "versions", "batches", "pinned", "kitchen", "ingredients"}),
    4: frozenset({"study", "versions", "batches", "pinned", "kitchen", "ingredients"}),
    5: frozenset({"study", "versions", "batches", "cooks", "pinned", "kitchen", "ingredients"}),
    6: frozenset({"study", "versions", "batches", "cooks", "pinned", "kitchen", "ingredients"}),
    7: frozenset({"study", "versions", "batches", "cooks", "trials", "photos", "pinned", "kitchen", "ingredients"}),
}
