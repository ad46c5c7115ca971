"""Processes beside the server for work whose time and memory go with what a file claims."""
