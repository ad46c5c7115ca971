"""The web server: routes parse, call, answer."""
