"""The decision: limits as data, an aim for the exposure, a school, and the search over steps."""
