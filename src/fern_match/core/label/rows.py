"""The rows of a nutrition panel: their order, names and units by region, and the nutrients they are made of."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.food.ingredients import Ingredient
from fern_match.core.food.nutrients import Nutrient
from fern_match.core.measures.numbers import Comma


class Basis(StrEnum):
    """What the panel's figures are for."""

    SERVING = "serving"
    PER_100_G = "100 g"


class Region(StrEnum):
    """Whose rules a label follows."""

    US = "US"
    EU = "EU"
    UK = "UK"
    CA = "CA"
    AU = "AU"  # and New Zealand

    @property
    def counts_fibre(self) -> bool:
        """Whether carbohydrate includes fibre; elsewhere it does not."""
        return self in {Region.US, Region.CA}

    @property
    def prints_salt(self) -> bool:
        """Whether salt stands in the place of sodium."""
        return self in {Region.EU, Region.UK}

    @property
    def ends_freely(self) -> bool:
        """Whether ingredients under 2 % may come last in any order."""
        return self.prints_salt

    @property
    def water_by_difference(self) -> bool:
        """Whether added water ranks by what is left of it, and is listed from 5 %; elsewhere as used."""
        return not self.counts_fibre

    @property
    def chocolate_law(self) -> str | None:
        """Whose least contents of chocolate hold there; None where the tables have none."""
        return {Region.US: "US", Region.EU: "EU", Region.UK: "EU"}.get(self)

    @property
    def usual_basis(self) -> "Basis":
        """What its panels are per."""
        return Basis.SERVING if self.counts_fibre else Basis.PER_100_G

    @property
    def comma(self) -> Comma:
        """What a comma means in figures there."""
        return Comma.DECIMAL if self is Region.EU else Comma.GROUPS


class RowId(StrEnum):
    """A row of a nutrition panel."""

    ENERGY_KJ = "energy_kj"
    ENERGY_KCAL = "energy_kcal"
    FAT = "fat"
    SATURATES = "saturates"
    TRANS_FAT = "trans_fat"
    CHOLESTEROL = "cholesterol"
    SODIUM = "sodium"
    CARBOHYDRATE = "carbohydrate"
    FIBRE = "fibre"
    SUGARS = "sugars"
    ADDED_SUGARS = "added_sugars"
    POLYOLS = "polyols"
    ALLULOSE = "allulose"
    PROTEIN = "protein"
    SALT = "salt"
    CALCIUM = "calcium"
    IRON = "iron"
    POTASSIUM = "potassium"


IN_SIGHT = (
    RowId.ENERGY_KCAL,
    RowId.FAT,
    RowId.SATURATES,
    RowId.CARBOHYDRATE,
    RowId.SUGARS,
    RowId.PROTEIN,
    RowId.SALT,
    RowId.SODIUM,
)  # the rows a match is held to at every step


@dataclass(frozen=True, slots=True)
class PanelRow:
    """One row as a region prints it."""

    id: RowId
    title: str
    unit: str
    part_of: RowId | None = None  # the row whose amount includes this one's

    @property
    def short(self) -> str:
        """Its title where there is little room."""
        plain = self.title.removeprefix("of which ").removeprefix("Total ").replace("Energy, kcal", "Energy")
        return plain[:1].upper() + plain[1:]


_US_ROWS = (
    PanelRow(RowId.ENERGY_KCAL, "Calories", "kcal"),
    PanelRow(RowId.FAT, "Total fat", "g"),
    PanelRow(RowId.SATURATES, "Saturated fat", "g", RowId.FAT),
    PanelRow(RowId.TRANS_FAT, "Trans fat", "g", RowId.FAT),
    PanelRow(RowId.CHOLESTEROL, "Cholesterol", "mg"),
    PanelRow(RowId.SODIUM, "Sodium", "mg"),
    PanelRow(RowId.CARBOHYDRATE, "Total carbohydrate", "g"),
    PanelRow(RowId.FIBRE, "Dietary fibre", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.SUGARS, "Total sugars", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.ADDED_SUGARS, "Added sugars", "g", RowId.SUGARS),
    PanelRow(RowId.POLYOLS, "Sugar alcohol", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.ALLULOSE, "Allulose", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.PROTEIN, "Protein", "g"),
    PanelRow(RowId.CALCIUM, "Calcium", "mg"),
    PanelRow(RowId.IRON, "Iron", "mg"),
    PanelRow(RowId.POTASSIUM, "Potassium", "mg"),
)
_EU_ROWS = (
    PanelRow(RowId.ENERGY_KJ, "Energy, kJ", "kJ"),
    PanelRow(RowId.ENERGY_KCAL, "Energy, kcal", "kcal"),
    PanelRow(RowId.FAT, "Fat", "g"),
    PanelRow(RowId.SATURATES, "of which saturates", "g", RowId.FAT),
    PanelRow(RowId.CARBOHYDRATE, "Carbohydrate", "g"),
    PanelRow(RowId.SUGARS, "of which sugars", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.POLYOLS, "of which polyols", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.FIBRE, "Fibre", "g"),
    PanelRow(RowId.PROTEIN, "Protein", "g"),
    PanelRow(RowId.SALT, "Salt", "g"),
)

_CA_ROWS = (
    PanelRow(RowId.ENERGY_KCAL, "Calories", "kcal"),
    PanelRow(RowId.FAT, "Fat", "g"),
    PanelRow(RowId.SATURATES, "Saturated", "g", RowId.FAT),
    PanelRow(RowId.TRANS_FAT, "Trans", "g", RowId.FAT),
    PanelRow(RowId.CARBOHYDRATE, "Carbohydrate", "g"),
    PanelRow(RowId.FIBRE, "Fibre", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.SUGARS, "Sugars", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.POLYOLS, "Sugar alcohols", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.PROTEIN, "Protein", "g"),
    PanelRow(RowId.CHOLESTEROL, "Cholesterol", "mg"),
    PanelRow(RowId.SODIUM, "Sodium", "mg"),
    PanelRow(RowId.POTASSIUM, "Potassium", "mg"),
    PanelRow(RowId.CALCIUM, "Calcium", "mg"),
    PanelRow(RowId.IRON, "Iron", "mg"),
)
_AU_ROWS = (
    PanelRow(RowId.ENERGY_KJ, "Energy, kJ", "kJ"),
    PanelRow(RowId.ENERGY_KCAL, "Energy, kcal", "kcal"),
    PanelRow(RowId.PROTEIN, "Protein", "g"),
    PanelRow(RowId.FAT, "Fat, total", "g"),
    PanelRow(RowId.SATURATES, "Saturated", "g", RowId.FAT),
    PanelRow(RowId.CARBOHYDRATE, "Carbohydrate", "g"),
    PanelRow(RowId.SUGARS, "Sugars", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.POLYOLS, "Polyols", "g", RowId.CARBOHYDRATE),
    PanelRow(RowId.FIBRE, "Dietary fibre", "g"),
    PanelRow(RowId.SODIUM, "Sodium", "mg"),
)
_ROWS = {Region.US: _US_ROWS, Region.CA: _CA_ROWS, Region.EU: _EU_ROWS, Region.UK: _EU_ROWS, Region.AU: _AU_ROWS}

# The nutrient whose lot spread speaks for a row.
ROW_NUTRIENT: Mapping[RowId, Nutrient] = {
    RowId.FAT: Nutrient.FAT,
    RowId.SATURATES: Nutrient.SATURATES,
    RowId.TRANS_FAT: Nutrient.TRANS_FAT,
    RowId.CHOLESTEROL: Nutrient.CHOLESTEROL,
    RowId.SODIUM: Nutrient.SODIUM,
    RowId.CARBOHYDRATE: Nutrient.CARBOHYDRATE,
    RowId.FIBRE: Nutrient.FIBRE,
    RowId.SUGARS: Nutrient.SUGARS,
    RowId.ADDED_SUGARS: Nutrient.ADDED_SUGARS,
    RowId.POLYOLS: Nutrient.POLYOLS,
    RowId.ALLULOSE: Nutrient.ALLULOSE,
    RowId.PROTEIN: Nutrient.PROTEIN,
    RowId.SALT: Nutrient.SODIUM,
    RowId.CALCIUM: Nutrient.CALCIUM,
    RowId.IRON: Nutrient.IRON,
    RowId.POTASSIUM: Nutrient.POTASSIUM,
}


def panel_rows(region: Region) -> tuple[PanelRow, ...]:
    """The rows of a region's panel in the order they are printed."""
    return _ROWS[region]


def row_per_100_g(food: Ingredient, row: RowId, region: Region) -> float | None:
    """What 100 g of an ingredient add to a row, in the row's unit; None when the table does not know.

    Carbohydrate is total by difference in the US and Canada and without fibre elsewhere (polyols included in both). Salt is
    2.5 times sodium.

    Source: 21 CFR 101.9(c); Regulation (EU) 1169/2011, Annex I and XV.
    """
    if row is RowId.ENERGY_KCAL:
        return _energy_kcal(food, region)
    if row is RowId.ENERGY_KJ:
        return _energy_kj(food)
    if not food.knows(ROW_NUTRIENT[row]):
        return None
    value = food.amount(ROW_NUTRIENT[row])
    if row is RowId.CARBOHYDRATE and not region.counts_fibre:
        return max(0.0, value - food.amount(Nutrient.FIBRE))
    if row is RowId.SALT:
        return 2.5 * value / 1000.0
    return value


def _energy_kcal(food: Ingredient, region: Region) -> float:
    """Energy by parts: 9 fat, 4 protein and carbohydrate, 2.4 polyols (erythritol 0), 2 fibre, 7 alcohol, 0.4 allulose.

    Source: Regulation (EU) 1169/2011, Annex XIV; for the US 21 CFR 101.9(c)(1)(i), methods B and C between which labels
    vary (fibre counted half).
    """
    fibre, polyols, allulose = (food.amount(n) for n in (Nutrient.FIBRE, Nutrient.POLYOLS, Nutrient.ALLULOSE))
    digestible = food.amount(Nutrient.CARBOHYDRATE) - fibre - polyols - allulose
    polyol_factor = 0.0 if food.polyol_kind == "erythritol" else 2.4
    return (
        9 * food.amount(Nutrient.FAT)
        + 4 * food.amount(Nutrient.PROTEIN)
        + (3 if food.category == "acid" else 4) * digestible
        + 2 * fibre
        + polyol_factor * polyols
        + 7 * food.amount(Nutrient.ALCOHOL)
        + (0.4 if region.counts_fibre else 4.0) * allulose
    )


def _energy_kj(food: Ingredient) -> float:
    """Energy by parts in kJ: 37 fat, 17 protein and carbohydrate, 10 polyols, 8 fibre, 29 alcohol.

    Source: Regulation (EU) 1169/2011, Annex XIV.
    """
    fibre, polyols = food.amount(Nutrient.FIBRE), food.amount(Nutrient.POLYOLS)
    digestible = food.amount(Nutrient.CARBOHYDRATE) - fibre - polyols
    return (
        37 * food.amount(Nutrient.FAT)
        + 17 * food.amount(Nutrient.PROTEIN)
        + (13 if food.category == "acid" else 17) * digestible
        + 8 * fibre
        + (0.0 if food.polyol_kind == "erythritol" else 10.0) * polyols
        + 29 * food.amount(Nutrient.ALCOHOL)
    )
