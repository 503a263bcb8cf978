"""A piece that takes the size of a cavity or a lined cup: shell, filling and cap.

Worked example: a half sphere of 28 mm holds 5.747 mL; with a shell of 2 mm 3.619 mL are left inside, and a cap of 2 mm takes
those of them that lie above 2 mm below the rim: pi 10^2 (3 x 12 - 10) / 3 = 2.723 mL are the filling.
"""

import math
from collections.abc import Sequence

from fern_match.core.batch.portion import CavityPart, CavityPlan, NoPortion, Piece, Portions, checked_pieces, rounds_for
from fern_match.core.food.together import listed
from fern_match.core.formulate import FormulaLayer
from fern_match.core.kitchen import GearReading, GearShape, inside_ml
from fern_match.core.measures.volumes import Measures, scooped
from fern_match.core.physics.solids import sphere_cap_cm3

USUAL_SHELL_MM = 1.5  # what a filled and drained mould keeps (approximate)
_THIN_MM = 0.8  # a shell below that breaks as it comes out of the mould (approximate)
_TOLD_SHARE = 0.02


def in_mould(
    piece: Piece,
    mould: GearReading,
    shell_mm: float | None,
    cap_mm: float | None,
    measures: Measures = Measures.METRIC,
    *,
    moulds: int | None = None,
    wanted: int | None = None,
) -> Portions:
    """Pieces that take the size of a cavity: shell and cap of the coat, the rest filled with what is inside.

    By the cavity's shape where it is known; else the layers share it as in the version. What goes in by the piece, one fruit or
    nut each, keeps its weight.

    Args:
        piece: Of the version.
        mould: What a cavity holds known.
        shell_mm: How thick the coat is at bottom and sides [mm]; usual where None.
        cap_mm: How thick it closes the cavity [mm]; as the shell where None; 0 leaves it open.
        measures: Whose spoons.
        moulds: How many, or how often it is filled; where None as often as the wanted pieces take.
        wanted: How many pieces; as many as it holds where None, or where it is said how often it is filled.

    Raises:
        NoPortion: nothing is known of the cavity, or the shell or what goes in by the piece fills it.
    """
    holds = mould.holds_ml
    if holds is None:
        raise NoPortion(f"{mould.gear.name}: {mould.problem or 'what a cavity holds is to say.'}")
    layers = [one for one in piece.formula.layers if one.finished_g > 0]
    coats = [one for one in layers if piece.is_coat(one)]
    inside = [one for one in layers if not piece.is_coat(one)]
    twice = 2 if mould.gear.halves else 1
    room = holds * twice
    shell, cap = (USUAL_SHELL_MM if shell_mm is None else shell_mm), cap_mm
    cap = shell if cap is None else cap
    cap = 0.0 if mould.gear.halves else cap  # two halves close each other
    coat_ml, level = 0.0, None
    if coats:
        found = _shell_ml(mould, shell, cap)
        coat_ml = found * twice if found is not None else room * _share(piece, coats, layers)
        level = cap if found is not None else None
        if inside and coat_ml >= room * (1 - 1e-9):
            raise NoPortion(f"A shell of {shell:g} mm with a cap of {cap:g} mm fills the cavity of {holds:.3g} mL.")
    filling_ml = room - coat_ml
    wholes = [one for one in inside if piece.is_whole(one)]
    rest = [one for one in inside if not piece.is_whole(one)]
    whole_ml = sum(piece.cm3(one) for one in wholes)
    if inside and rest and whole_ml >= filling_ml:
        raise NoPortion(
            f"{listed([one.name for one in wholes])} takes {whole_ml:.3g} mL and {filling_ml:.3g} mL are there: "
            "nothing else fits."
        )
    factors = dict.fromkeys((one.layer_id for one in wholes), 1.0)
    for group, ml in ((coats, coat_ml), (rest, filling_ml - whole_ml)):
        now = sum(piece.cm3(one) for one in group)
        factors.update(dict.fromkeys((one.layer_id for one in group), ml / now if now > 0 else 1.0))
    filled = rounds_for(mould.pieces, moulds, wanted)
    pieces = mould.pieces * filled if moulds is not None or wanted is None else wanted
    parts = tuple(
        CavityPart(
            layer_id=one.layer_id,
            name=one.name,
            grams=one.finished_g * factors[one.layer_id],
            ml=piece.cm3(one) * factors[one.layer_id],
            meant_g=one.finished_g,
            spoons=_by_spoon(one.finished_g * factors[one.layer_id], one.finished_g / piece.cm3(one), measures),
        )
        for one in layers
    )
    return Portions(
        pieces=checked_pieces(pieces),
        factors=factors,
        words=_cavity_words(mould, filled, pieces, parts, piece, shell, cap, bool(coats), level is not None),
        cavity=CavityPlan(
            shape=mould.gear.shape.value,
            top_mm=mould.length.value,
            bottom_mm=mould.width.value,
            depth_mm=mould.length.value / 2
            if mould.gear.shape is GearShape.HALF_SPHERE and mould.length.value is not None
            else mould.depth.value,
            shell_mm=shell if coats and level is not None else None,
            cap_mm=cap if coats and level is not None else None,
            holds_ml=holds,
            filling_ml=filling_ml / twice,
            filling_to_mm=level,
            parts=parts,
        ),
    )


def _by_spoon(grams: float, g_ml: float, measures: Measures) -> str:
    """A layer's part of a cavity by spoon, as it is filled."""
    found = scooped(grams, g_ml, measures, pours=True) if grams > 0 else None
    return found.words if found is not None else ""


def _shell_ml(mould: GearReading, shell: float, cap: float) -> float | None:
    """What shell and cap take of a cavity [mL]; None where its shape is not known, so that no thickness says a volume.

    Of a cavity whose volume was measured the part is taken that its shape would have.
    """
    shape, top, bottom, depth = mould.gear.shape, mould.length.value, mould.width.value, mould.depth.value
    whole = mould.shape_ml
    if whole is None or top is None:
        return None

    def inside(sunk: float) -> float:
        """What is hollow below a level, the shell taken off [mL]."""
        if shape is GearShape.HALF_SPHERE:
            radius = top / 2 - shell
            level = max(0.0, min(radius, sunk))
            return sphere_cap_cm3(math.sqrt(radius**2 - level**2), radius - level) if radius > 0 else 0.0
        high = (depth or 0.0) - shell - sunk
        if high <= 0:
            return 0.0
        wide, narrow = top - 2 * shell, (bottom or 0.0) - 2 * shell
        if shape is GearShape.TAPERED and bottom is not None:
            slope = (top - bottom) / (depth or 1.0)  # narrower by so much for each mm down
            wide, narrow = wide - slope * sunk, narrow + slope * shell
        return inside_ml(shape, max(0.0, wide), max(0.0, narrow), high) or 0.0

    return (1 - inside(cap) / whole) * (mould.holds_ml or whole)


def _share(piece: Piece, coats: Sequence[FormulaLayer], layers: Sequence[FormulaLayer]) -> float:
    return sum(piece.cm3(one) for one in coats) / sum(piece.cm3(one) for one in layers)


def _cavity_words(
    mould: GearReading,
    moulds: int,
    pieces: int,
    parts: Sequence[CavityPart],
    piece: Piece,
    shell: float,
    cap: float,
    coated: bool,
    by_shape: bool,
) -> tuple[str, ...]:
    weighs, meant = sum(one.grams for one in parts), sum(one.meant_g for one in parts)
    halves = ", two halves each" if mould.gear.halves else ""
    filled = f"{moulds} × {mould.gear.name}" if moulds > 1 else mould.gear.name
    each = f"{mould.pieces} pieces{' each' if moulds > 1 else ''}{halves}"
    words = [f"{filled}: {each}, {weighs:.3g} g a piece instead of {meant:.3g} g."]
    last = pieces - mould.pieces * (moulds - 1)
    if last < mould.pieces:
        words.append(f"The last time {last} of {mould.pieces} are filled.")
    if coated and by_shape:
        closed = "" if mould.gear.halves else f", closed with {cap:g} mm" if cap > 0 else ", left open"
        words.append(f"Shell of {shell:g} mm{closed}.")
        if shell < _THIN_MM:
            words.append(f"A shell under {_THIN_MM:g} mm breaks as it comes out: brush it a second time.")
        if cap > 0 and not mould.gear.halves:
            words.append(f"Fill to {cap:g} mm below the rim: what touches it leaks through the cap.")
    elif coated:
        words.append("The cavity’s shape is not known, so the layers share it as in the version.")
    share_now = {one.layer_id: one.grams / weighs for one in parts} if weighs > 0 else {}
    changed = [
        f"{one.name} {100 * share_now[one.layer_id]:.0f}\u00a0% instead of {100 * one.meant_g / meant:.0f}\u00a0%"
        for one in parts
        if meant > 0 and abs(share_now.get(one.layer_id, 0.0) - one.meant_g / meant) > _TOLD_SHARE
    ]
    if changed:
        words.append(f"Of the piece: {'; '.join(changed)}. The label below stays the version’s.")
    loose = [one.name for one in piece.formula.layers if piece.is_whole(one) and one.finished_g > 0]
    if loose:
        words.append(f"{listed(loose)} by the piece, as in the version.")
    return tuple(words)
