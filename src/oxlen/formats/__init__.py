"""Open file formats: phone profiles and briefs, checked by Pydantic, published as JSON Schema."""
