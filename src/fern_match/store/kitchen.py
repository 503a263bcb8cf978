"""The kitchen, kept."""

from sqlalchemy.orm import Session

from fern_match.core.kitchen import Kitchen
from fern_match.core.measures import Measures
from fern_match.core.measures.shown import LengthUnit, MassUnit, TemperatureUnit
from fern_match.store.tables import KitchenRow

_ONLY = 1


def load_kitchen(session: Session) -> Kitchen:
    """The kitchen as last set; a usual one before that.

    Args:
        session: In a transaction.
    """
    row = session.get(KitchenRow, _ONLY)
    if row is None:
        return Kitchen()
    return Kitchen(
        scale_step=row.scale_step,
        measures=Measures(row.measures),
        mass_unit=MassUnit(row.mass_unit),
        temperature_unit=TemperatureUnit(row.temperature_unit),
        length_unit=LengthUnit(row.length_unit),
        altitude=row.altitude,
        boiling_reading=row.boiling_reading,
    )


def save_kitchen(session: Session, kitchen: Kitchen) -> None:
    """Keeps the kitchen.

    Args:
        session: In a transaction.
        kitchen: As typed.
    """
    session.merge(
        KitchenRow(
            id=_ONLY,
            scale_step=kitchen.scale_step,
            measures=kitchen.measures.value,
            mass_unit=kitchen.mass_unit.value,
            temperature_unit=kitchen.temperature_unit.value,
            length_unit=kitchen.length_unit.value,
            altitude=kitchen.altitude,
            boiling_reading=kitchen.boiling_reading,
        )
    )
