"""The web service: Flask, one blueprint per resource, OpenAPI from the code."""
