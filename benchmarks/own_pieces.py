"""Pieces of our own with known truth: kinds that the other sets lack, with statements as hard as real ones.

Each recipe is in parts by weight as added; water lost is taken off; the label is what those amounts make with a composition that
differs from the table, rounded as the region prints. Written before the reader and the placing were tuned on anything like them.
"""

import json
import zlib
from typing import Any

import numpy as np

from fern_match.core.food import Nutrient, Pantry, standard_pantry
from fern_match.core.food.ingredients import Ingredient
from fern_match.core.label.printing import printed
from fern_match.core.label.rows import Region, panel_rows, row_per_100_g

SPREAD = 0.03  # of a lot about the table
_BETWEEN = 0.02
_STEADY = {"sugar": 0.2, "syrup": 0.3, "polyol": 0.2, "fat": 0.3, "water-alcohol": 0.3}  # lots of these differ less

# id, region, net weight, pieces; layers: id, family, place, host, finished g, recipe, water lost [share of it]; statement
PIECES: tuple[tuple[Any, ...], ...] = (
    (
        "op-01",
        "UK",
        "38.4 g",
        1,
        (
            (
                "coat",
                "milk-coat",
                "coat",
                None,
                13.0,
                {"white-sugar": 45, "cocoa-butter": 22, "whole-milk-powder": 20, "cocoa-mass": 12, "soy-lecithin": 0.5},
                0,
            ),
            (
                "w1",
                "wafer-sheet",
                "stack",
                None,
                3.2,
                {"plain-wheat-flour": 40, "water": 57, "palm-oil": 1.2, "fine-salt": 0.3, "baking-soda": 0.3},
                0.57,
            ),
            (
                "c1",
                "wafer-cream",
                "stack",
                None,
                8.2,
                {
                    "white-sugar": 46,
                    "palm-oil": 30,
                    "hazelnut-roasted": 11,
                    "skimmed-milk-powder": 9,
                    "cocoa-powder-10-12": 3.5,
                    "soy-lecithin": 0.4,
                },
                0,
            ),
            (
                "w2",
                "wafer-sheet",
                "stack",
                None,
                3.2,
                {"plain-wheat-flour": 40, "water": 57, "palm-oil": 1.2, "fine-salt": 0.3, "baking-soda": 0.3},
                0.57,
            ),
            (
                "c2",
                "wafer-cream",
                "stack",
                None,
                8.2,
                {
                    "white-sugar": 46,
                    "palm-oil": 30,
                    "hazelnut-roasted": 11,
                    "skimmed-milk-powder": 9,
                    "cocoa-powder-10-12": 3.5,
                    "soy-lecithin": 0.4,
                },
                0,
            ),
            (
                "w3",
                "wafer-sheet",
                "stack",
                None,
                3.2,
                {"plain-wheat-flour": 40, "water": 57, "palm-oil": 1.2, "fine-salt": 0.3, "baking-soda": 0.3},
                0.57,
            ),
        ),
        "Ingredients: Milk Chocolate (33%) (Sugar, Cocoa Butter, Dried Whole MILK, Cocoa Mass, Emulsifier: SOYA "
        "Lecithins), "
        "WHEAT Flour (with Calcium, Iron, Niacin, Thiamin), Sugar, Palm Oil, HAZELNUTS (4.5%), Dried Skimmed MILK, Fat Reduced "
        "Cocoa, Emulsifier: SOYA Lecithins, "
        "Salt, Raising Agent: Sodium Bicarbonate. Milk Chocolate contains Cocoa Solids 30% minimum, Milk Solids 18% "
        "minimum. Store in a cool, "
        "dry place. May contain other NUTS.",
    ),
    (
        "op-02",
        "US",
        "1.6 oz (45 g)",
        3,
        (
            (
                "cup",
                "milk-coat",
                "coat",
                None,
                8.0,
                {
                    "white-sugar": 48,
                    "cocoa-butter": 19,
                    "whole-milk-powder": 18,
                    "cocoa-mass": 13,
                    "soy-lecithin": 0.5,
                    "pgpr": 0.2,
                },
                0,
            ),
            (
                "fill",
                "peanut-filling",
                "core",
                None,
                7.2,
                {
                    "peanut-raw": 62,
                    "white-sugar": 28,
                    "dextrose": 5,
                    "peanut-oil": 0.01,
                    "fine-salt": 1.2,
                    "palm-kernel-fat": 3.5,
                },
                0,
            ),
        ),
        "MILK CHOCOLATE (SUGAR, COCOA BUTTER, MILK, CHOCOLATE, SOY LECITHIN, PGPR [EMULSIFIER]), PEANUTS, SUGAR, "
        "DEXTROSE, PALM KERNEL OIL, "
        "CONTAINS 2% OR LESS OF: SALT, TBHQ AND CITRIC ACID (TO MAINTAIN FRESHNESS). CONTAINS: MILK, PEANUTS, SOY.",
    ),
    (
        "op-03",
        "EU",
        "150 g",
        12,
        (
            (
                "shell",
                "dark-coat",
                "coat",
                None,
                6.8,
                {"cocoa-mass": 45, "white-sugar": 43, "cocoa-butter": 11, "soy-lecithin": 0.5},
                0,
            ),
            (
                "liq",
                "liqueur-centre",
                "core",
                None,
                4.3,
                {"white-sugar": 52, "water": 14, "spirit-40": 28, "glucose-syrup-42de": 6},
                0.04,
            ),
            ("fruit", "whole-fruit", "inclusion", "liq", 1.6, {"fruit-in-spirit": 100}, 0),
        ),
        "Dark chocolate 54 % (cocoa mass, sugar, cocoa butter, emulsifier: lecithins (SOYA)), sugar, sour cherries in "
        "alcohol 13 %, kirsch 9 %, "
        "water, glucose syrup, invertase. Dark chocolate: cocoa solids 55 % minimum. Contains alcohol.",
    ),
    (
        "op-04",
        "US",
        "60 g",
        1,
        (
            (
                "coat",
                "compound-milk-coat",
                "coat",
                None,
                12.0,
                {
                    "maltitol-powder": 44,
                    "palm-kernel-fat": 32,
                    "whey-powder": 8,
                    "skimmed-milk-powder": 8,
                    "cocoa-powder-alkalised": 7,
                    "soy-lecithin": 0.5,
                },
                0,
            ),
            (
                "dough",
                "protein-dough",
                "stack",
                None,
                38.0,
                {
                    "milk-protein-concentrate": 24,
                    "whey-protein-isolate": 12,
                    "soluble-corn-fibre": 26,
                    "glycerol": 9,
                    "peanut-butter-natural": 14,
                    "water": 8,
                    "palm-oil": 5,
                    "fine-salt": 0.5,
                    "sucralose-powder": 0.04,
                },
                0,
            ),
            ("crisp", "crisp-pieces", "inclusion", "dough", 4.0, {"crisped-rice-cereal": 100}, 0),
            ("nuts", "whole-nuts", "inclusion", "dough", 6.5, {"peanut-roasted": 100}, 0),
        ),
        "Protein Blend (Milk Protein Concentrate, Whey Protein Isolate), Chocolatey Coating (Maltitol, Palm Kernel Oil, "
        "Whey, Nonfat Milk, Cocoa "
        "Processed With Alkali, Soy Lecithin, Natural Flavor), Soluble Corn Fiber, Roasted Peanuts, Peanut "
        "Butter (Peanuts, Salt), Crisp Rice (Rice "
        "Flour, Sugar, Malt Extract, Salt), Vegetable Glycerin, Water, Palm Oil. Less Than 2% Of: Salt, Natural Flavors, "
        "Sucralose. Contains: Milk, "
        "Peanuts, Soy.",
    ),
    (
        "op-05",
        "UK",
        "200 g",
        8,
        (
            (
                "base",
                "crumb-base",
                "stack",
                None,
                10.5,
                {"wholemeal-biscuit-crumbs": 68, "butter-salted": 27, "golden-syrup": 5},
                0,
            ),
            (
                "mallow",
                "marshmallow",
                "stack",
                None,
                7.0,
                {"white-sugar": 40, "glucose-syrup-42de": 32, "water": 24, "gelatine-powder": 3},
                0.12,
            ),
            (
                "top",
                "dark-coat",
                "stack",
                None,
                7.8,
                {"cocoa-mass": 43, "white-sugar": 46, "cocoa-butter": 10, "soy-lecithin": 0.5},
                0,
            ),
        ),
        "Dark Chocolate (31%) (Sugar, Cocoa Mass, Cocoa Butter, Emulsifier (Soya Lecithin)), Digestive "
        "Biscuits (28%) (Wheat Flour, Palm Oil, Wholemeal Wheat Flour, Sugar, Partially Inverted Sugar Syrup, Raising "
        "Agents (Sodium "
        "Bicarbonate, Tartaric Acid), Salt), Sugar, Salted Butter (Milk), Glucose Syrup, Golden Syrup (Invert Sugar "
        "Syrup), Beef Gelatine.",
    ),
    (
        "op-06",
        "AU",
        "180 g",
        12,
        (
            (
                "coat",
                "milk-coat",
                "coat",
                None,
                7.0,
                {
                    "white-sugar": 50,
                    "whole-milk-powder": 22,
                    "cocoa-butter": 17,
                    "cocoa-mass": 10,
                    "soy-lecithin": 0.5,
                    "pgpr": 0.2,
                },
                0,
            ),
            (
                "jelly",
                "fruit-jelly",
                "core",
                None,
                8.4,
                {"white-sugar": 42, "glucose-syrup-42de": 28, "raspberry-puree": 34, "pectin-hm": 1.4, "citric-acid": 0.9},
                0.18,
            ),
        ),
        "Milk Chocolate (45%) (Sugar, Milk Solids, Cocoa Butter, Cocoa Mass, Emulsifiers (Soy Lecithin, 476), Flavour), "
        "Sugar, Raspberries "
        "(21%), Glucose Syrup (Wheat), Gelling Agent (440), Food Acid (330), Flavour. Contains Milk, Soy. May be "
        "present: Tree Nuts, Peanut.",
    ),
    (
        "op-07",
        "CA",
        "100 g",
        6,
        (
            (
                "coat",
                "dark-coat",
                "coat",
                None,
                6.0,
                {"cocoa-mass": 52, "white-sugar": 36, "cocoa-butter": 11, "sunflower-lecithin": 0.4},
                0,
            ),
            (
                "ganache",
                "ganache-dark",
                "stack",
                None,
                8.5,
                {
                    "cocoa-mass": 30,
                    "white-sugar": 26,
                    "cocoa-butter": 7,
                    "heavy-cream": 30,
                    "butter-unsalted": 5,
                    "glucose-syrup-42de": 2,
                },
                0,
            ),
            ("nut", "whole-nuts", "inclusion", "ganache", 2.4, {"hazelnut-roasted": 100}, 0),
        ),
        "Ingredients: Dark chocolate (unsweetened chocolate, sugar, cocoa butter, sunflower lecithin), Cream, Hazelnuts, "
        "Butter, Glucose. "
        "Contains: Milk, Hazelnuts. May contain: Other tree nuts, Peanuts, Soy.",
    ),
    (
        "op-08",
        "US",
        "40 g",
        1,
        (
            ("nuts", "whole-nuts", "stack", None, 21.0, {"almond-raw": 62, "cashew": 38}, 0),
            (
                "binder",
                "granola",
                "stack",
                None,
                12.0,
                {"honey": 30, "glucose-syrup-42de": 22, "rolled-oats": 32, "crisped-rice-cereal": 14, "sea-salt-coarse": 1},
                0.05,
            ),
            (
                "choc",
                "dark-coat",
                "stack",
                None,
                7.4,
                {"cocoa-mass": 44, "white-sugar": 42, "cocoa-butter": 12, "soy-lecithin": 0.5},
                0,
            ),
        ),
        "Almonds, Cashews, Dark Chocolate (Sugar, Chocolate Liquor, Cocoa Butter, Soy Lecithin - An Emulsifier), Rolled "
        "Oats, Honey, Glucose Syrup, "
        "Crisp Rice (Rice Flour, Sugar, Salt), Sea Salt. Allergens: Almonds, Cashews, Soy.",
    ),
    (
        "op-09",
        "EU",
        "50 g",
        2,
        (
            (
                "coat",
                "plant-milk-coat-open",
                "coat",
                None,
                9.0,
                {"white-sugar": 42, "cocoa-butter": 28, "rice-flour": 14, "cocoa-mass": 15, "sunflower-lecithin": 0.5},
                0,
            ),
            (
                "coco",
                "coconut-filling",
                "core",
                None,
                16.2,
                {"desiccated-coconut": 38, "glucose-syrup-42de": 30, "white-sugar": 20, "coconut-cream": 12, "fine-salt": 0.2},
                0.05,
            ),
        ),
        "Coconut filling 64 % [desiccated coconut 40 % (of the filling), glucose syrup, sugar, coconut cream (coconut "
        "extract, water), salt], vegan "
        "chocolate 36 % [sugar, cocoa butter, cocoa mass, rice flour, emulsifier: lecithins (sunflower)]. May contain "
        "MILK and ALMONDS.",
    ),
    (
        "op-10",
        "UK",
        "36 g",
        1,
        (
            (
                "coat",
                "sugar-free-milk-coat",
                "coat",
                None,
                14.0,
                {"maltitol-powder": 44, "cocoa-butter": 24, "whole-milk-powder": 19, "cocoa-mass": 12, "soy-lecithin": 0.5},
                0,
            ),
            (
                "caramel",
                "maltitol-caramel",
                "stack",
                None,
                12.0,
                {"maltitol-syrup": 66, "heavy-cream": 26, "butter-unsalted": 7, "fine-salt": 0.3},
                0.22,
            ),
            (
                "base",
                "short-base",
                "stack",
                None,
                10.2,
                {"plain-wheat-flour": 50, "butter-unsalted": 29, "maltitol-powder": 18, "fine-salt": 0.3},
                0.09,
            ),
        ),
        "Milk chocolate with sweetener (38%) (sweetener (maltitol), cocoa butter, whole MILK powder, cocoa mass, "
        "emulsifier (SOYA lecithins)), sweetener "
        "(maltitol syrup), WHEAT flour, butter (MILK), cream (MILK), sweetener (maltitol), salt. Excessive consumption "
        "may produce laxative effects. "
        "Milk chocolate contains cocoa solids 33% minimum.",
    ),
)


def own_pieces() -> list[dict[str, Any]]:
    """The pieces in the shape of the other sets."""
    return [made_up(*one) for one in PIECES]


def made_up(name: str, region: str, net: str, pieces: int, layers: Any, statement: str) -> dict[str, Any]:
    """A piece of known truth in the shape of the other sets, its label made from lots that differ from the table."""
    pantry = standard_pantry()
    rng = np.random.default_rng(zlib.crc32(name.encode()))
    foods = sorted({food for layer in layers for food in layer[5]})
    lots = {food: rng.normal(1, SPREAD * _STEADY.get(pantry[food].category, 1.0), len(Nutrient)) for food in foods}
    truth = []
    for layer_id, family, _, _, finished, recipe, lost in layers:
        added = finished / (1 - lost)
        total = sum(recipe.values())
        amounts = {food: added * parts / total for food, parts in recipe.items()}
        truth.append({"layer": layer_id, "family": family, "mass_g": finished, "ingredients_g": amounts})
    piece = sum(layer["mass_g"] for layer in truth)
    for layer in truth:
        layer["share"] = layer["mass_g"] / piece
    lay_readings = [{"layer": one["layer"], "g": round(one["mass_g"] * rng.normal(1, _BETWEEN), 2)} for one in truth]
    return {
        "id": name,
        "region": region,
        "layers": [{"id": one[0], "family": one[1], "place": one[2], "host": one[3]} for one in layers],
        "label": {
            "net_weight_g": net,
            "pieces_per_pack": pieces,
            "serving": None,
            "basis": "100 g",
            "rows": _rows(Region(region), truth, piece, pantry, lots),
            "statement": statement,
        },
        "measurements": {
            "piece_weighings_g": [round(piece * rng.normal(1, 0.015), 2) for _ in range(4)],
            "layer_weighings": lay_readings,
        },
        "truth": {"piece_g": piece, "layers": truth},
    }


def _rows(region: Region, truth: Any, piece: float, pantry: Pantry, lots: dict[str, Any]) -> list[dict[str, str]]:
    found = []
    for spec in panel_rows(region):
        if spec.id in {"allulose", "iron", "trans_fat"}:
            continue
        total = sum(
            grams * (row_per_100_g(_lot(pantry[food], lots[food]), spec.id, region) or 0.0) / piece
            for layer in truth
            for food, grams in layer["ingredients_g"].items()
        )
        found.append({"row": spec.id.value, "qualifier": "", "text": printed(region, spec.id, total)})
    return found


def _lot(food: Ingredient, factors: Any) -> Ingredient:
    """A lot of an ingredient: each figure a few per cent off the table's."""
    figures = {
        nutrient: None if food.per_100_g.get(nutrient) is None else float(food.per_100_g[nutrient] or 0.0) * float(factor)
        for nutrient, factor in zip(Nutrient, factors, strict=True)
    }
    return Ingredient(id=food.id, name=food.name, category=food.category, per_100_g=figures, polyol_kind=food.polyol_kind)


if __name__ == "__main__":
    print(json.dumps(own_pieces(), indent=1))
