"""Results as the published JSON objects."""

from mitten.reports.assessment import assessment_report
from mitten.reports.calendar import year_calendar
from mitten.reports.climate import ReportPoint, answer_point, climate_report, read_point
from mitten.reports.course import course_csv, course_report
from mitten.reports.csv_text import csv_of
from mitten.reports.plans import plan_report

__all__ = [
    "ReportPoint",
    "answer_point",
    "assessment_report",
    "climate_report",
    "course_csv",
    "course_report",
    "csv_of",
    "plan_report",
    "read_point",
    "year_calendar",
]
