"""Where water boils, and what a thermometer must read there for a syrup to be where a recipe wants it."""

import math

from fern_match.core.errors import check_range

SEA_LEVEL_KPA = 101.325
BOILS_AT_SEA_LEVEL_C = 99.97  # by the formula below at 101.325 kPa
READS_AT_SEA_LEVEL_C = 100.0  # what a thermometer is made to show there
LOWEST_M, HIGHEST_M = -430.0, 6000.0
_CRITICAL_K, _CRITICAL_KPA = 647.096, 22064.0
_STEPS = 60


def air_pressure_kpa(altitude_m: float) -> float:
    """Air pressure at a height, of the standard atmosphere [kPa].

    p = 101.325 (1 - 2.25577e-5 h)^5.25588. Weather moves it by about 3 kPa, which is 0.8 C of boiling point.

    Args:
        altitude_m: Above the sea [m], -430 to 6000.

    Raises:
        OutOfRange: altitude_m is outside.

    Source: International Standard Atmosphere.

    >>> round(air_pressure_kpa(1600.0), 2)
    83.52
    """
    check_range("altitude", altitude_m, LOWEST_M, HIGHEST_M, unit="m")
    return SEA_LEVEL_KPA * math.pow(1 - 2.25577e-5 * altitude_m, 5.25588)


def vapour_pressure_kpa(temp_c: float) -> float:
    """Saturation pressure of water [kPa].

    Args:
        temp_c: Temperature [degC], 1 to 370.

    Raises:
        OutOfRange: temp_c is outside.

    Source: Wagner and Pruss (2002), IAPWS-95, saturation line.
    """
    check_range("temperature", temp_c, 1.0, 370.0, unit="°C")
    kelvin = temp_c + 273.15
    tau = 1 - kelvin / _CRITICAL_K
    powers = (
        -7.85951783 * tau
        + 1.84408259 * tau**1.5
        - 11.7866497 * tau**3
        + 22.6807411 * tau**3.5
        - 15.9618719 * tau**4
        + 1.80122502 * tau**7.5
    )
    return _CRITICAL_KPA * math.exp(_CRITICAL_K / kelvin * powers)


def water_boils_c(altitude_m: float) -> float:
    """Boiling point of water at a height [degC].

    Args:
        altitude_m: Above the sea [m], -430 to 6000.

    Raises:
        OutOfRange: altitude_m is outside.

    Source: the two formulas above, inverted by bisection.

    >>> round(water_boils_c(1600.0), 2)
    94.65
    """
    pressure = air_pressure_kpa(altitude_m)
    low, high = 1.0, 120.0
    for _ in range(_STEPS):
        middle = (low + high) / 2
        low, high = (middle, high) if vapour_pressure_kpa(middle) < pressure else (low, middle)
    return (low + high) / 2


def reading_for(sea_level_c: float, boiling_reading_c: float) -> float:
    """What the thermometer must read for a boil that ends at a temperature at sea level [degC].

    T = T_sea - (100 - reading in boiling water): one reading corrects height, weather and thermometer together.

    Args:
        sea_level_c: As recipes give it [degC], 20 to 200.
        boiling_reading_c: What this thermometer reads in boiling water here [degC], 75 to 110.

    Raises:
        OutOfRange: an argument is outside.

    Source: boiling point elevation does not depend on pressure to the first order (Duehring); at 80 % solids and 1600 m the
    true correction is about 0.4 C larger.

    >>> reading_for(118.0, 94.5)
    112.5
    """
    check_range("temperature", sea_level_c, 20.0, 200.0, unit="°C")
    check_range("boiling water", boiling_reading_c, 75.0, 110.0, unit="°C")
    return sea_level_c - (READS_AT_SEA_LEVEL_C - boiling_reading_c)
