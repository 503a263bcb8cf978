"""The bench's made-up bars as studies, through the product's own door: typed label, pasted statement, typed weighings."""

import json
import re
from dataclasses import replace
from pathlib import Path
from typing import Any

from fifth_hand import fifth_pieces
from own_pieces import own_pieces
from sixth_hand import pieces_by

from fern_match.core.food import standard_pantry
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE, LabelText, Layer, Place, Study, Whereabouts
from fern_match.core.study.record import weighed as as_readings

DATA = Path(__file__).parent / "data"
FILES = {"bench": "bench_bars.json", "bars": "work_bars.json", "pieces": "work_pieces.json"}
_HALF = {"bars": 10, "pieces": 1}  # so many by turns: kinds and countries are in both halves
# The bench's plain family names, as a user would pick them from our list.
FAMILY = {
    "dark-chocolate-coat": "dark-coat",
    "milk-chocolate-coat": "milk-coat",
    "white-chocolate-coat": "white-coat",
    "compound-coat": "compound-milk-coat",
    "soft-caramel": "soft-caramel",
    "nougat": "nougat-egg-white",
    "short-base": "short-base",
    "crumb-base": "crumb-base",
    "wafer": "wafer-sheet",
    "coconut-filling": "coconut-filling",
    "ganache": "ganache-dark",
    "whole-nuts": "whole-nuts",
    "nut-paste": "nut-paste-praline",
    "peanut-filling": "peanut-filling",
    "crisp-in-chocolate": "crisp-in-chocolate",
    "marshmallow": "marshmallow",
    "jelly": "fruit-jelly",
    "fruit-filling": "liquid-fruit-centre",
    "fondant": "plain-fondant",
    "brittle": "brittle",
}
_ROWS = {
    "calories": RowId.ENERGY_KCAL,
    "total_fat": RowId.FAT,
    "saturated_fat": RowId.SATURATES,
    "total_carbohydrate": RowId.CARBOHYDRATE,
    "dietary_fibre": RowId.FIBRE,
    "total_sugars": RowId.SUGARS,
    "sugar_alcohol": RowId.POLYOLS,
}


def pieces_of(name: str) -> list[dict[str, Any]]:
    """All pieces of a set."""
    if name == "own":
        return own_pieces()
    if name == "fifth":
        return fifth_pieces()
    if (DATA / f"{name}_hand.txt").exists():
        return pieces_by(name)
    return list(json.loads((DATA / FILES[name]).read_text())["bars"])


def half(bars: list[dict[str, Any]], *, held: bool) -> list[dict[str, Any]]:
    """One half of a set: the one to work with, or the one held back."""
    turn = _HALF["bars"] if len(bars) > 50 else _HALF["pieces"]
    return [bar for at, bar in enumerate(bars) if (at // turn) % 2 == held]


def given_study_of(bar: dict[str, Any], weighed: str) -> Study:
    """A piece with every place answered from its truth: where each name that was read is, and where it is not."""
    study = study_of(bar, weighed)
    reading = StudyReading(study, standard_pantry())
    truth = {layer["layer"]: set(layer["ingredients_g"]) for layer in bar["truth"]["layers"]}
    placements = {
        key: {layer: Whereabouts.YES if name in inside else Whereabouts.NO for layer, inside in truth.items()}
        for key, name in reading.ingredient_of.items()
        if any(name in inside for inside in truth.values())
    }
    return replace(study, placements=placements)


def weighed_layers(bar: dict[str, Any], weighed: str) -> list[str]:
    """The ids of the layers weighed: none, two (the first and the last but inclusions), or all."""
    layers = [layer["id"] for layer in bar["layers"]]
    if weighed == "none":
        return []
    return layers if weighed == "all" else [layers[0], layers[-1]]


def study_of(bar: dict[str, Any], weighed: str) -> Study:
    """A bar as its owner would type it; variants that the statement clearly asks for are accepted, as one click does."""
    region = Region(bar["region"])
    label = bar["label"]
    rows = {}
    for row in label["rows"]:
        row_id = _ROWS.get(row["row"], row["row"])
        if row_id in set(RowId):
            figure = re.findall(r"<?\d+(?:\.\d+)?", row["text"])[-1]
            rows[RowId(row_id)] = figure if figure.startswith("<") else f"{row['qualifier']}{figure}"
    layer_readings = {entry["layer"]: (str(entry["g"]),) for entry in bar["measurements"]["layer_weighings"]}
    weighings: dict[str, tuple[str, ...]] = {
        key: layer_readings[key] for key in weighed_layers(bar, weighed) if key in layer_readings
    }
    weighings[PIECE] = tuple(str(grams) for grams in bar["measurements"]["piece_weighings_g"])
    study = Study(
        name=bar["id"],
        region=region,
        label=LabelText(
            net_weight=str(label["net_weight_g"]),
            pieces_per_pack=str(label["pieces_per_pack"]),
            serving=str(label["serving"]["g"]) if label["serving"] else "",
            basis=Basis.SERVING if label["basis"] == "serving" else Basis.PER_100_G,
            rows=rows,
        ),
        statement=label["statement"],
        layers=tuple(
            Layer(
                id=la["id"],
                name=la["family"],
                family=FAMILY.get(la["family"], la["family"]),
                place=Place(la["place"]),
                host=la["host"],
            )
            for la in bar["layers"]
        ),
        readings=as_readings(weighings),
    )
    better = StudyReading(study, standard_pantry()).better_families
    layers = tuple(replace(la, family=better[la.id].id) if la.id in better else la for la in study.layers)
    return replace(study, layers=layers)
