"""The log density: its gradient, its pieces, its numbers."""

from dataclasses import replace

import numpy as np
import pytest
from scipy.special import log_ndtr
from scipy.stats import norm

from fern_match.core.estimate.evidence import evidence_terms
from fern_match.core.estimate.evidence.thickness import ThicknessTerm
from fern_match.core.estimate.evidence.weighings import WeighingsTerm, mean_reading_sd_g
from fern_match.core.estimate.log_density import LogDensity
from fern_match.core.estimate.normal import log_below, log_between
from fern_match.core.estimate.problem import Problem, build_problem
from fern_match.core.estimate.recipe_tree import peak_logit
from fern_match.core.estimate.state import state_of
from fern_match.core.food import Pantry
from fern_match.core.label.rows import Region
from fern_match.core.physics.density import mixture_density_g_cm3
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PieceSize, Reading, Spot, Study, Thickness, weighed


def problem_of(study: Study, pantry: Pantry) -> Problem:
    """A problem about 42 g."""
    return build_problem(StudyReading(study, pantry), 42.0)


def sticky_study(small_study: Study) -> Study:
    """A coat and a caramel weighed; the caramel leaves some of itself on the knife."""
    return replace(small_study, readings=weighed({"coat": ("16.2",), "caramel": ("25.4",)}))


def particles(problem: Problem, count: int, seed: int = 5) -> np.ndarray:
    """Random unknowns."""
    return np.random.default_rng(seed).standard_normal((problem.unknowns, count))


def measured_study(small_study: Study) -> Study:
    """A piece of known size, coat and caramel measured on the cut face, and both weighed together."""
    pair = (Reading(id="both", subject="coat", also="caramel", typed="41.5"),)
    thick = (Thickness(id="a", layer="coat", typed="2.2", spot=Spot.SIDE), Thickness(id="b", layer="caramel", typed="11 mm"))
    return replace(small_study, size=PieceSize(length="80", width="28", height="16"), thicknesses=thick, readings=pair)


@pytest.fixture(params=["demo", "small", "small EU", "sugar-free", "sticky", "measured"])
def problem(request: pytest.FixtureRequest, demo_study: Study, small_study: Study, pantry: Pantry) -> Problem:
    """Problems of different kinds: brackets, dispersed, other region, polyols with a small group, a caramel weighed."""
    statement = "Maltitol, cocoa mass, maltitol syrup, cream, cocoa butter; contains 2% or less of: soy lecithin, salt, butter."
    studies = {
        "demo": demo_study,
        "small": small_study,
        "small EU": replace(small_study, region=Region.EU),
        "sugar-free": replace(small_study, statement=statement),
        "sticky": sticky_study(small_study),
        "measured": measured_study(small_study),
    }
    return problem_of(studies[request.param], pantry)


def test_gradient_agrees_with_differences(problem: Problem) -> None:
    """Analytic slopes against central differences, for every unknown."""
    density = LogDensity(problem, evidence_terms(problem, ())[0])
    z = particles(problem, 6)
    gradient = density(z).by_evidence
    step = 1e-5
    for unknown in range(problem.unknowns):
        up, down = z.copy(), z.copy()
        up[unknown] += step
        down[unknown] -= step
        difference = density(up).log_evidence - density(down).log_evidence
        assert gradient[unknown] == pytest.approx(difference / (2 * step), rel=2e-4, abs=2e-3)


def test_every_particle_is_a_piece(problem: Problem) -> None:
    """Shares sum to 1 in every layer, layers to the piece, and finished = added - lost."""
    z = particles(problem, 40)
    state = state_of(problem, z)
    assert state.layer_share.sum(axis=0) == pytest.approx(1.0)
    per_layer = problem.in_layer @ state.shares.of_layer
    assert per_layer == pytest.approx(np.ones_like(per_layer))
    assert (problem.in_layer @ state.amount - state.lost_g) == pytest.approx(100 * state.layer_share)
    assert (state.amount >= 0).all()


def test_far_unknowns_stay_finite(problem: Problem) -> None:
    """No overflow, however far a proposal jumps."""
    z = particles(problem, 8)
    density = LogDensity(problem, evidence_terms(problem, ())[0])
    evaluation = density(1e3 * z)
    assert np.isfinite(evaluation.log_evidence).all()
    assert np.isfinite(evaluation.by_evidence).all()


def test_normal_tails_agree_with_scipy() -> None:
    """Both tails, far out, to six digits of the probability; beyond any argument that a sum could hold it stays finite."""
    x = np.linspace(-40, 8, 2000)
    value, slope = log_below(x)
    assert np.isfinite(log_below(np.array([-1e12, 1e12]))).all()
    assert slope == pytest.approx(np.exp(norm.logpdf(x) - log_ndtr(x)), rel=1e-6)
    assert value == pytest.approx(log_ndtr(x), abs=2e-7)


@pytest.mark.parametrize(("low", "high"), [(-1.0, 1.0), (3.0, 4.0), (-9.0, -8.0), (7.5, 9.0), (-1e5, 0.3)])
def test_interval_probabilities(low: float, high: float) -> None:
    """Against differences of cumulative probabilities where those keep their digits."""
    value, by_low, by_high = log_between(np.array([low]), np.array([high]))
    mirrored = (-high, -low) if low > 0 else (low, high)
    expected = np.log(norm.cdf(mirrored[1]) - norm.cdf(mirrored[0]))
    assert value[0] == pytest.approx(expected, abs=1e-5)
    assert by_high[0] == pytest.approx(norm.pdf(high) / np.exp(expected), rel=1e-4, abs=1e-12)
    assert by_low[0] == pytest.approx(-norm.pdf(low) / np.exp(expected), rel=1e-4, abs=1e-12)


@pytest.mark.parametrize(
    ("low", "typical", "high", "logit"),
    [(0.2, 0.3, 0.4, 0.0), (0.0, 0.0, 0.1, 0.0), (0.1, 0.1, 0.1, 0.0), (0.0, 0.25, 1.0, np.log(1 / 3))],
)
def test_windows_peak_at_the_typical_share(low: float, typical: float, high: float, logit: float) -> None:
    """In the middle where the typical share is nothing."""
    assert peak_logit(low, typical, high) == pytest.approx(logit)


def test_one_reading_is_less_sure_than_three() -> None:
    """One: 3.5 % of 10 g and the scale. Three alike: the scatter shrinks."""
    assert mean_reading_sd_g([10.0]) == pytest.approx((0.35**2 + 0.06**2) ** 0.5)
    assert mean_reading_sd_g([10.0, 10.0, 10.0]) < 0.6 * mean_reading_sd_g([10.0])
    assert mean_reading_sd_g([9.0, 11.0]) > mean_reading_sd_g([10.0, 10.0])


def test_one_bracket_in_two_layers_has_one_recipe(pantry: Pantry, demo_study: Study) -> None:
    """The chocolate of the coat and of the crisp layer share their shares."""
    from fern_match.core.study.record import Layer, Place

    study = replace(
        demo_study,
        statement="Dark chocolate (cocoa mass, sugar, cocoa butter), puffed rice",
        layers=(
            Layer(id="coat", name="Coat", family="dark-coat", place=Place.COAT),
            Layer(id="crisp", name="Crisp", family="crisp-in-chocolate", place=Place.CORE),
        ),
        readings=(),
    )
    problem = problem_of(study, pantry)
    z = particles(problem, 10)
    shares = problem.tree.shares(z).of_layer
    cocoa, sugar = (
        [i for i, part in enumerate(problem.parts) if part.ingredient_id == name] for name in ("cocoa-mass", "white-sugar")
    )
    assert shares[cocoa[0]] / shares[sugar[0]] == pytest.approx(shares[cocoa[1]] / shares[sugar[1]])


def test_a_layer_too_wet_for_its_family_is_unlikely(problem: Problem) -> None:
    """The density falls by half the square of how far the moisture lies outside its window, and by nothing inside."""
    z = particles(problem, 12)
    wide = replace(problem, moisture=np.tile([-9.0, 9.0], (len(problem.layers), 1)))
    dry = replace(problem, moisture=np.tile([-9.0, -8.0], (len(problem.layers), 1)))
    free, narrow, tight = (LogDensity(one, ())(z) for one in (wide, problem, dry))
    moisture = state_of(problem, z).moisture
    outside = (moisture < problem.moisture[:, :1]) | (moisture > problem.moisture[:, 1:])
    assert outside.any()
    lost = free.log_evidence - narrow.log_evidence
    assert (lost[outside.any(axis=0)] > 0).all()
    assert lost[~outside.any(axis=0)] == pytest.approx(0.0)
    off = (moisture + 8.0) / 0.15  # a window of one gram per gram is left softly, at 0.15 of its width
    assert free.log_evidence - tight.log_evidence == pytest.approx(0.5 * (off**2).sum(axis=0))


def test_a_sticky_layer_leaves_some_of_itself_on_the_knife(small_study: Study, pantry: Pantry) -> None:
    """A weighing of it foresees less than its mass, by as much as the knife keeps; one of a coat all of it."""
    problem = problem_of(sticky_study(small_study), pantry)
    term = next((one for one in evidence_terms(problem, ())[0] if isinstance(one, WeighingsTerm)), None)
    assert term is not None
    z = particles(problem, 8)
    z[problem.knife_at] = 1.5
    state = state_of(problem, z)
    masses = term.holds @ (state.layer_share * state.mass_g)
    kept = term.expected(state).mean / masses
    sticky = term.sticky[:, 0] > 0
    assert sticky.tolist().count(True) == 1
    assert kept[sticky] == pytest.approx(np.tile(1 - state.knife, (int(sticky.sum()), 1)))
    assert (state.knife > 0.001).all()
    assert kept[~sticky] == pytest.approx(1.0)


def test_a_thickness_is_volume_over_area(small_study: Study, pantry: Pantry) -> None:
    """Of the caramel: its airless volume over what is not air, over the footprint; of the coat over the piece's surface."""
    problem = problem_of(measured_study(small_study), pantry)
    term = next(one for one in evidence_terms(problem, ())[0] if isinstance(one, ThicknessTerm))
    z = particles(problem, 5)
    state = state_of(problem, z)
    foreseen = term.expected(state).mean
    names = [part.ingredient_id for part in problem.parts]
    for row, (layer, area) in enumerate(((0, problem.surface_cm2), (1, np.exp(state.log_area)))):
        for particle in range(5):
            amounts = dict.fromkeys(names, 0.0)
            for index, part in enumerate(problem.parts):
                if part.layer == layer:
                    amounts[part.ingredient_id] += state.amount[index, particle]
            lost, air = state.lost_g[layer, particle], state.porosity[layer, particle]
            density = mixture_density_g_cm3(amounts, lost, air, pantry)
            grams = state.layer_share[layer, particle] * state.mass_g[particle]
            footprint = area if np.ndim(area) == 0 else area[particle]
            assert foreseen[row, particle] == pytest.approx(10 * grams / density / footprint, rel=1e-6)
