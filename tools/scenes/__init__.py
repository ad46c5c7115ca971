"""Rendering the scenes of Kettle Reach with true light; not part of the product at run time."""
