"""What is known of the scene from title, intent and what is asked: shared by all decisions."""
