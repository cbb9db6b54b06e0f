"""The pages: thin routes, view models, templates and static files."""

from mitten.web.app import create_app

__all__ = ["create_app"]
