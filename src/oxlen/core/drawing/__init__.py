"""Drawing with a lamp."""
