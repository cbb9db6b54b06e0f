"""Results as the published JSON objects."""

from mitten.reports.assessment import assessment_report
from mitten.reports.calendar import year_calendar
from mitten.reports.climate import ReportPoint, answer_point, climate_report, read_point
from mitten.reports.course import course_csv, course_report
from mitten.reports.plans import plan_report

__all__ = [
    "ReportPoint",
    "answer_point",
    "assessment_report",
    "climate_report",
    "course_csv",
    "course_report",
    "plan_report",
    "read_point",
    "year_calendar",
]
