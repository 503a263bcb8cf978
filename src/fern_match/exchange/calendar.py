"""A schedule as an iCalendar file: one event for each step that takes hands, with what goes in and how hot."""

import datetime as dates

from icalendar import Calendar, Event

from fern_match.core.cook import Plan, Schedule


def written_calendar(name: str, plan: Plan, schedule: Schedule, day: dates.date, cook_id: str) -> str:
    """A schedule as the text of a calendar file, in the time of wherever it is opened.

    Args:
        name: Of the match.
        plan: With its steps.
        schedule: Their times.
        day: Whose midnight is minute 0.
        cook_id: For ids of events that stay the same when it is written again.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Fern Match//")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    midnight = dates.datetime.combine(day, dates.time())
    for line in schedule.lines:
        step = plan.step(line.step)
        if step is None:
            continue
        event = Event()
        event.add("uid", f"{cook_id}-{line.step}-{line.round}@fern-match")
        event.add("summary", step.title if line.round == 1 else f"{step.title}, round {line.round}")
        event.add("dtstamp", midnight)
        event.add("dtstart", midnight + dates.timedelta(minutes=line.start_min))
        event.add("dtend", midnight + dates.timedelta(minutes=line.end_min))
        uses = [f"{one.name} {one.grams:.1f} g" for one in step.uses]
        event.add("description", "\n".join(one for one in (step.gate, step.words, *uses) if one))
        calendar.add_component(event)
    text: bytes = calendar.to_ical()
    return text.decode()
