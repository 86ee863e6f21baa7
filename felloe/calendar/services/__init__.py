"""Opening hours and shifts as the core's calendars, and changing them."""

from felloe.calendar.services.hours import check_promise, hours_of, set_hours, shop_calendar
from felloe.calendar.services.shifts import add_absence, end_absence, person_calendars, set_shifts, work_times

__all__ = [
    "add_absence",
    "check_promise",
    "end_absence",
    "hours_of",
    "person_calendars",
    "set_hours",
    "set_shifts",
    "shop_calendar",
    "work_times",
]
