"""The rows of a nutrition panel: their order, names and units by region, and the nutrients they are made of."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Ingredient
from fern_match.core.food.nutrients import FIBRE_APART, Nutrient, salt_g
from fern_match.core.food.together import lacking
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
        return {Region.US: "US", Region.EU: "EU", Region.UK: "UK"}.get(self)

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
    PanelRow(RowId.FIBRE, "Dietary fiber", "g", RowId.CARBOHYDRATE),
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
    """What 100 g of an ingredient add to a row, in the row's unit; None when the table does not know a part of it.

    Carbohydrate is total by difference in the US and Canada and without fibre elsewhere (polyols included in both). Salt is
    2.5 times sodium.

    Source: 21 CFR 101.9(c); Regulation (EU) 1169/2011, Annex I and XV.
    """
    if row in {RowId.ENERGY_KCAL, RowId.ENERGY_KJ}:
        return _energy(food, region, _KCAL if row is RowId.ENERGY_KCAL else _KJ)
    value = food.per_100_g.get(ROW_NUTRIENT[row])
    if value is None:
        return None
    if row is RowId.CARBOHYDRATE and not region.counts_fibre:
        fibre = food.per_100_g.get(Nutrient.FIBRE)
        apart = food.origins.get(Nutrient.CARBOHYDRATE) == FIBRE_APART
        return (value if apart else None) if fibre is None else max(0.0, value - fibre)
    if row is RowId.CARBOHYDRATE and food.origins.get(Nutrient.CARBOHYDRATE) == FIBRE_APART and not food.knows(Nutrient.FIBRE):
        return None
    return salt_g(value) if row is RowId.SALT else value


@dataclass(frozen=True, slots=True)
class _Factors:
    """Energy of a gram of each part, in one unit."""

    fat: float
    protein: float
    carbohydrate: float
    acid: float
    fibre: float
    alcohol: float
    allulose: float
    column: str  # of the table of polyols


_KCAL = _Factors(9, 4, 4, 3, 2, 7, 0.4, "kcal_per_g")
_KJ = _Factors(37, 17, 17, 13, 8, 29, 1.7, "kj_per_g")
_ENERGY_PARTS = (
    Nutrient.FAT,
    Nutrient.PROTEIN,
    Nutrient.CARBOHYDRATE,
    Nutrient.FIBRE,
    Nutrient.POLYOLS,
    Nutrient.ALLULOSE,
    Nutrient.ALCOHOL,
)


def _energy(food: Ingredient, region: Region, factors: _Factors) -> float | None:
    """Energy by parts; polyols by their kind and region, allulose as carbohydrate outside the US and Canada; None where a part
    is not known.

    Source: Regulation (EU) 1169/2011, Annex XIV; for the US 21 CFR 101.9(c)(1)(i), methods B and C between which labels
    vary (fibre counted half); data/polyol_energy.csv.
    """
    if lacking([food], _ENERGY_PARTS):
        return None
    fat, protein, carbohydrate, fibre, polyols, allulose, alcohol = (food.amount(part) for part in _ENERGY_PARTS)
    digestible = carbohydrate - fibre - polyols - allulose
    return (
        factors.fat * fat
        + factors.protein * protein
        + (factors.acid if food.category == "acid" else factors.carbohydrate) * digestible
        + factors.fibre * fibre
        + polyol_energy(food.polyol_kind or "", region, factors.column) * polyols
        + factors.alcohol * alcohol
        + (factors.allulose if region.counts_fibre else factors.carbohydrate) * allulose
    )


def polyol_energy(kind: str, region: Region, column: str = "kcal_per_g") -> float:
    """Energy of a gram of a polyol [kcal, or kJ by the column].

    Args:
        kind: Of polyol; one that the region's table does not name counts as a polyol in general.
        region: Whose factors.
        column: kcal_per_g or kj_per_g.

    Source: data/polyol_energy.csv.

    >>> polyol_energy("maltitol", Region.US), polyol_energy("maltitol", Region.EU)
    (2.1, 2.4)
    """
    table = _polyol_energies()
    return float((table.get((region.value, kind)) or table[region.value, ""])[column])


@cache
def _polyol_energies() -> Mapping[tuple[str, str], Mapping[str, str]]:
    return {(region, row["polyol_kind"]): row for row in rows("polyol_energy.csv") for region in row["regions"].split("|")}
