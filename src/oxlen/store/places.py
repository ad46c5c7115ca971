"""Names of what is in a folder of data."""

DATABASE = "oxlen.db"
PICTURES = "pictures"
PREVIEWS = "previews"
INCOMING = "incoming"
STACKS = "stacks"
FRAMES = "frames"
LOCK = "running.lock"
