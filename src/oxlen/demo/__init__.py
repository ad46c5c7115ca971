"""The Kettle Reach demo: simple scenes, pictures of them, and sheets to fill an empty library."""
