"""What does not fit together in a study, in sentences for the user."""

from dataclasses import dataclass

from fern_match.core.food import unlisted
from fern_match.core.label.rows import Basis, panel_rows
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE, TOGETHER, Place

_DOUBTFUL_BRACKET = 0.75  # odds of a bracket's meaning below which the user is asked
UNSURE_BELOW = 0.8  # a name match below this is worth a look
_LIGHTEST, _HEAVIEST = 0.25, 1.55  # g/cm3 of a whole piece in its box: puffed bars to pressed dates (approximate)


@dataclass(frozen=True, slots=True, kw_only=True)
class Flag:
    """Something the user should look at: where, and a sentence."""

    where: str  # label, statement, layers, weighings
    keys: tuple[str, ...]
    sentence: str


def flags_of(reading: StudyReading) -> tuple[Flag, ...]:
    """Everything worth a look, in the order of the study's sections."""
    return (
        *_label_flags(reading),
        *_statement_flags(reading),
        *_layer_flags(reading),
        *_weighing_flags(reading),
        *_size_flags(reading),
        *_thickness_flags(reading),
    )


def _label_flags(reading: StudyReading) -> list[Flag]:
    flags = [Flag(where="label", keys=found.rows, sentence=found.sentence) for found in reading.contradictions]
    for row in reading.columns_apart:
        title = next(spec.title for spec in panel_rows(reading.study.region) if spec.id is row)
        sentence = f"{title}: the two columns cannot both be true for this serving. Check both figures and the serving."
        flags.append(Flag(where="label", keys=(row,), sentence=sentence))
    serving, net = reading.serving.value, reading.net_weight.value
    if serving is not None and net is not None and serving > net * 1.02 + 0.5:
        sentence = f"A serving of {serving:g} g is more than the whole pack of {net:g} g. Check both."
        flags.append(Flag(where="label", keys=("serving", "net_weight"), sentence=sentence))
    servings = reading.servings.value
    if serving is not None and net is not None and servings is not None and not 0.75 <= serving * servings / net <= 1.25:
        makes = f"{servings:g} servings of {serving:g} g make {servings * serving:.0f} g"
        sentence = f"{makes}, but the pack holds {net:g} g. Check the three."
        flags.append(Flag(where="label", keys=("servings", "serving", "net_weight"), sentence=sentence))
    if reading.study.label.basis is Basis.SERVING and reading.basis_g is None and reading.intervals:
        sentence = "The figures are per serving, but the serving’s weight is missing: the nutrition rows are not used yet."
        flags.append(Flag(where="label", keys=("serving",), sentence=sentence))
    return flags


def _statement_flags(reading: StudyReading) -> list[Flag]:
    flags = [Flag(where="statement", keys=(), sentence=problem) for problem in reading.statement.problems]
    for leaf in reading.statement.leaves():
        match = reading.matches[leaf.key]
        outside = unlisted(leaf.name)
        if match.ingredient_id is None and leaf.key not in reading.study.corrections and not (outside and outside.is_trace):
            holds = f" It may hold {outside.may_hold}." if outside else ""
            sentence = f"“{leaf.name}” is not in the pantry.{holds} Choose what comes nearest, add it, or leave it out."
            flags.append(Flag(where="statement", keys=(leaf.key,), sentence=sentence))
        elif match.ingredient_id is not None and match.confidence < UNSURE_BELOW:
            food = reading.pantry[match.ingredient_id].name
            flags.append(
                Flag(where="statement", keys=(leaf.key,), sentence=f"“{leaf.name}” was taken for {food}. Is that right?")
            )
    for sentence in reading.statement.unread:
        flags.append(Flag(where="statement", keys=(), sentence=f"Not read: “{sentence[:120]}”."))
    for bracket in reading.brackets:
        if bracket.odds[bracket.meaning] < _DOUBTFUL_BRACKET and not bracket.corrected:
            sentence = f"The bracket after “{bracket.name}” could mean two things. Say which."
            flags.append(Flag(where="statement", keys=(bracket.item,), sentence=sentence))
    for key in reading.placeless:
        sentence = f"No layer takes “{key.rpartition(' > ')[2]}”. Say which layer it is in, or it counts as absent."
        flags.append(Flag(where="statement", keys=(key,), sentence=sentence))
    for key, layers in reading.anywhere.items():
        where = f"It is looked for in {' and '.join(layers)}: say which it is in."
        sentence = f"No layer here is usually made with “{key.rpartition(' > ')[2]}”. {where}"
        flags.append(Flag(where="statement", keys=(key,), sentence=sentence))
    return flags


def _layer_flags(reading: StudyReading) -> list[Flag]:
    flags = []
    known = reading.families
    for layer in reading.study.layers:
        if layer.family not in known:
            sentence = f"{layer.name}: there is no family “{layer.family}”. Choose one from the list."
            flags.append(Flag(where="layers", keys=(layer.id,), sentence=sentence))
        if layer.host is not None and layer.host not in {other.id for other in reading.study.layers}:
            sentence = f"{layer.name}: the layer it lies in is gone. Choose another."
            flags.append(Flag(where="layers", keys=(layer.id,), sentence=sentence))
    if reading.study.layers and all(layer.place == "inclusion" for layer in reading.study.layers):
        flags.append(Flag(where="layers", keys=(), sentence="An inclusion lies in another layer. Add the layer it is in."))
    for layer_id, better in reading.better_families.items():
        layer, family = next((la, fa) for la, fa in reading.build if la.id == layer_id)
        sentence = f"{layer.name}: the ingredient names fit {better.name.lower()} better than {family.name.lower()}."
        flags.append(Flag(where="layers", keys=(layer_id,), sentence=sentence))
    return flags


def _weighing_flags(reading: StudyReading) -> list[Flag]:
    flags = []
    known = {PIECE, *(layer.id for layer in reading.study.layers)}
    lost = [one.typed for one in reading.study.readings if not known.issuperset(one.what.split(TOGETHER))]
    if lost:
        sentence = (
            f"{len(lost)} readings are of a layer that is not in the build: {', '.join(lost[:5])}. They are kept, not used."
        )
        flags.append(Flag(where="weighings", keys=(), sentence=sentence))
    by_subject = {weighing.subject: weighing for weighing in reading.weighings}
    piece = by_subject[PIECE].mean_g
    prior = reading.piece_prior
    if piece is not None and prior is not None and not prior.low_g * 0.97 <= piece <= prior.high_g * 1.03:
        sentence = (
            f"The pieces weigh {piece:.1f} g, but the label’s net weight makes {prior.low_g:.1f} to {prior.high_g:.1f} g "
            "likely. "
            "Check the net weight and the pieces per pack."
        )
        flags.append(Flag(where="weighings", keys=(PIECE,), sentence=sentence))
    whole = piece if piece is not None else (prior.high_g if prior else None)
    layers = [weighing.mean_g for weighing in reading.weighings if len(weighing.layers) == 1 and weighing.mean_g is not None]
    if whole is not None and sum(layers) > whole * 1.08:
        sentence = (
            f"The layers weighed add up to {sum(layers):.1f} g, more than the whole piece ({whole:.1f} g). One of them is off."
        )
        flags.append(Flag(where="weighings", keys=(), sentence=sentence))
    return flags


def _size_flags(reading: StudyReading) -> list[Flag]:
    box, pieces = reading.size.box_mm, {weighing.subject: weighing.mean_g for weighing in reading.weighings}
    grams = pieces[PIECE] or (reading.piece_prior.mean_g if reading.piece_prior else None)
    if box is None or grams is None:
        return []
    density = grams / (box[0] * box[1] * box[2] / 1000)
    if _LIGHTEST <= density <= _HEAVIEST:
        return []
    what = "denser than sugar and dates" if density > _HEAVIEST else "lighter than puffed rice"
    sentence = f"{grams:.1f} g in a box of that size makes {density:.2f} g/cm³, {what}. Check the size and its unit."
    return [Flag(where="weighings", keys=("size",), sentence=sentence)]


def _thickness_flags(reading: StudyReading) -> list[Flag]:
    """A coat's thickness counts over the surface of the piece, which only its size tells."""
    coats = {layer.id: layer.name for layer in reading.study.layers if layer.place is Place.COAT}
    measured = {coats[one.layer]: None for one in reading.thicknesses if one.layer in coats and one.millimetres}
    if not measured or reading.size.box_mm is not None:
        return []
    sentence = f"{' and '.join(measured)}: the thickness is used once length, width and height of the piece are there."
    return [Flag(where="weighings", keys=("size",), sentence=sentence)]
