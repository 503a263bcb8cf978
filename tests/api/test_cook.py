"""A cook over the API: planned, scheduled, run; two tablets; what a file carries along."""

import csv
import io
from typing import Any

import icalendar
import pytest
from fastapi.testclient import TestClient
from tests.api.test_batch import FILE, set_kitchen

from fern_match.api import cook as router
from fern_match.api.clock import SteadyClock
from fern_match.core.match import Match
from fern_match.exchange import read_match_file
from fern_match.exchange.log_csv import written_log


@pytest.fixture
def cook_url(client: TestClient) -> str:
    """A cook of the batch tests' caramel."""
    made = client.post("/api/matches/import", json=FILE).json()
    url = f"/api/matches/{made['id']}/cooks"
    begun = client.post(url, json={"revision": 1, "batch": "b"})
    assert begun.status_code == 201
    return f"{url}/{begun.json()['cooks'][0]['id']}"


def entry(key: str, kind: str, **more: Any) -> dict[str, Any]:
    """One entry as a tablet sends it."""
    return {"key": key, "kind": kind, **more}


def log(client: TestClient, url: str, *entries: dict[str, Any]) -> Any:
    """Adds entries; the run after it."""
    answer = client.post(f"{url}/run", json={"entries": entries})
    return client.get(f"{url}/run") if answer.status_code == 200 else answer


def test_a_cook_is_planned_from_its_batch(client: TestClient, cook_url: str) -> None:
    """Steps with what goes in and how hot, in the kitchen's units; the path counts it."""
    cook = client.get(cook_url).json()
    titles = [step["title"] for step in cook["steps"]]
    assert titles[-1] == "Count, weigh and box them"
    boil = next(step for step in cook["steps"] if step["title"].startswith("Cook to"))
    assert (boil["heat"]["aim"], boil["end_by"]) == ("118 °C", "heat")
    assert {one["topic"] for one in boil["cautions"]} == {"Hot sugar"}
    frame = client.get(cook_url.partition("/cooks")[0] + "/frame").json()
    assert next(one["words"] for one in frame["path"] if one["step"] == "cook") == "1 cook"
    set_kitchen(client, temperature_unit="F")
    assert any(step["title"] == "Cook to 244 °F" for step in client.get(cook_url).json()["steps"])


def test_changes_and_schools_are_kept_and_merged(client: TestClient, cook_url: str) -> None:
    """Two windows on one plan: a school here, minutes there; what was not read stays beside its field."""
    cook = client.get(cook_url).json()
    step = next(one for one in cook["steps"] if one["title"].startswith("Cook to"))
    changed = {"id": step["id"], "title": step["title"], "hands_on": "soon"}
    one = {**cook["plan"], "changes": [changed]}
    other = {**cook["plan"], "schools": {"caramel--end": "cue"}}
    assert client.put(cook_url, json={"revision": cook["revision"], "plan": one}).status_code == 200
    answer = client.put(cook_url, json={"revision": cook["revision"], "plan": other}).json()
    assert answer["plan"]["schools"] == {"caramel--end": "cue"}
    cells = answer["changes"][0]["cells"]
    assert (cells["hands_on"]["typed"], cells["hands_on"]["value"]) == ("soon", None)
    assert "Write minutes or hours" in cells["hands_on"]["problem"]
    undone = client.post(cook_url.partition("/cooks")[0] + "/undo", json={"revision": answer["revision"]})
    assert undone.status_code == 200
    assert client.get(cook_url).json()["plan"]["schools"] == {}


def test_a_schedule_and_its_calendar(client: TestClient, cook_url: str) -> None:
    """From six in the evening of a day; the file is read by another program's reader."""
    cook = client.get(cook_url).json()
    plan = {**cook["plan"], "begins": "2026-12-01 18:00"}
    client.put(cook_url, json={"revision": cook["revision"], "plan": plan})
    schedule = client.get(f"{cook_url}/schedule").json()
    assert schedule["words"].startswith("18:00 to ")
    assert {line["step"] for line in schedule["lines"]} == {step["id"] for step in cook["steps"]}
    calendar = icalendar.Calendar.from_ical(client.get(f"{cook_url}/calendar").text)
    events = calendar.walk("VEVENT")
    assert min(one["DTSTART"].dt for one in events).isoformat() == "2026-12-01T18:00:00"
    assert len(events) == len(schedule["lines"])


def test_ready_by_a_day_ends_on_that_day(client: TestClient, cook_url: str) -> None:
    """The last event of the calendar ends then."""
    cook = client.get(cook_url).json()
    client.put(cook_url, json={"revision": cook["revision"], "plan": {**cook["plan"], "ready_by": "2026-12-05 16:00"}})
    calendar = icalendar.Calendar.from_ical(client.get(f"{cook_url}/calendar").text)
    assert max(one["DTEND"].dt for one in calendar.walk("VEVENT")).isoformat() == "2026-12-05T16:00:00"


def test_two_tablets_agree(client: TestClient, cook_url: str) -> None:
    """What one logs the other sees; what is sent twice is there once; each says the same time that is left."""
    first = client.get(cook_url).json()["steps"][0]["id"]
    entries = [entry("1", "begun"), entry("2", "opened", step=first), entry("3", "timer", step=first, text="12 min")]
    for _ in range(2):
        assert log(client, cook_url, *entries).status_code == 200
    run = client.get(f"{cook_url}/run").json()
    assert (run["last"], run["is_on"], run["timers"][0]["minutes"]) == (3, True, 12)
    assert 700 < run["timers"][0]["left_s"] <= 720
    assert run["doing"][run["at_hand"]]["step"] == first


def test_timers_are_right_when_the_clock_jumps(client: TestClient, cook_url: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """Set back by an hour after a start anew, the log never goes back; and a running program's clock does not jump."""
    log(client, cook_url, entry("1", "timer", of="t", text="10"))
    monkeypatch.setattr(router, "CLOCK", SteadyClock())
    monkeypatch.setattr(router.CLOCK, "_wall_s", router.CLOCK._wall_s - 3600)  # as after a start anew
    after = log(client, cook_url, entry("2", "note", text="later")).json()
    assert after["log"][0]["at_ms"] >= after["log"][1]["at_ms"]
    assert 590 < after["timers"][0]["left_s"] <= 600


def test_a_reading_that_is_none_is_refused_and_nothing_of_it_kept(client: TestClient, cook_url: str) -> None:
    """With what is accepted."""
    answer = log(client, cook_url, entry("1", "note", text="x"), entry("2", "reading", of="thermometer", text="hot"))
    assert answer.status_code == 422
    assert "Write degrees" in answer.json()["message"]
    assert client.get(f"{cook_url}/run").json()["last"] == 0


def test_another_amount_changes_the_piece(client: TestClient, cook_url: str) -> None:
    """And the label follows."""
    step = next(one for one in client.get(cook_url).json()["steps"] if one["uses"])
    use = max(step["uses"], key=lambda one: one["grams"])
    run = log(client, cook_url, entry("1", "amount", step=step["id"], of=use["line_id"], text=f"{2 * use['grams']:.1f}")).json()
    assert "in place of" in run["as_cooked"]
    assert "was planned" in run["as_cooked"]


def test_practice_warms_and_boils_past_the_end(client: TestClient, cook_url: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """A simulated pan, as fast as was chosen; openly so."""
    boil = next(one["id"] for one in client.get(cook_url).json()["steps"] if one["title"].startswith("Cook to"))
    begun = router.CLOCK.now_ms()
    log(client, cook_url, entry("1", "begun"), entry("2", "practice", value=60.0), entry("3", "opened", step=boil))
    log(client, cook_url, entry("4", "heat on", step=boil))
    shown = []
    for later in (500, 5_000, 60_000):
        monkeypatch.setattr(router.CLOCK, "now_ms", lambda later=later: begun + later)
        shown.append(client.get(f"{cook_url}/run").json()["device"])
    temps = [one["temp_c"] for one in shown]
    assert temps == sorted(temps)
    assert temps[0] < 110
    assert (shown[-1]["alarm"], shown[-1]["name"]) == ("past", "Simulated thermometer and scale")


def test_the_log_goes_out_as_a_table_without_formulas(client: TestClient, cook_url: str) -> None:
    """A note that begins with an equals sign is text."""
    log(client, cook_url, entry("1", "note", text="=1+1"))
    (row,) = csv.DictReader(io.StringIO(client.get(f"{cook_url}/log").text))
    assert row["text"] == "'=1+1"
    assert written_log((), {}).startswith("number,at,kind,step")


def test_a_file_carries_plan_and_log(client: TestClient, cook_url: str) -> None:
    """Out and in again, into another match; further entries are added behind those that came along."""
    log(client, cook_url, entry("1", "begun"), entry("2", "note", text="sticky"))
    text = client.get(cook_url.partition("/cooks")[0] + "/export").text
    match: Match = read_match_file(text)
    assert [one.entry.text for one in match.cooks[0].log] == ["", "sticky"]
    copy = client.post("/api/matches/import", content=text, headers={"content-type": "application/json"}).json()["id"]
    url = f"/api/matches/{copy}/cooks/{match.cooks[0].id}"
    run = log(client, url, entry("9", "note", text="later")).json()
    assert (run["last"], run["log"][0]["words"], run["log"][1]["words"]) == (3, "later", "sticky")
    cook = client.get(url).json()
    assert cook["plan"]["log"] == []
    client.put(url, json={"revision": cook["revision"], "plan": {**cook["plan"], "begins": "10"}})
    assert client.get(f"{url}/run").json()["last"] == 3  # a saved plan leaves the log as it is


def test_what_is_not_there_is_said(client: TestClient, cook_url: str) -> None:
    """A cook, a batch; and a cook goes with its batch, and comes back with it."""
    base = cook_url.rpartition("/")[0]
    assert client.get(f"{base}/none").status_code == 404
    assert client.post(base, json={"revision": 2, "batch": "none"}).status_code == 404
    match = base.removesuffix("/cooks")
    revision = client.get(base).json()["revision"]
    gone = client.request("DELETE", f"{match}/batches/b", json={"revision": revision})
    assert gone.status_code == 200
    assert client.get(base).json()["cooks"] == []
    client.post(f"{match}/undo", json={"revision": gone.json()["revision"]})
    assert len(client.get(base).json()["cooks"]) == 1


def test_a_cook_taken_out_comes_back_with_its_log(client: TestClient, cook_url: str) -> None:
    """The log is only ever added to."""
    log(client, cook_url, entry("1", "begun"))
    revision = client.get(cook_url).json()["revision"]
    gone = client.request("DELETE", cook_url, json={"revision": revision}).json()
    assert client.get(cook_url).status_code == 404
    client.post(cook_url.partition("/cooks")[0] + "/undo", json={"revision": gone["revision"]})
    assert client.get(f"{cook_url}/run").json()["has_begun"]
