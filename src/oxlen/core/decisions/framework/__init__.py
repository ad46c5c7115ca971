"""What a decision is, and what it is handed: asks, a brief, limits, offers, lines of the slip.

Nothing here knows any decision.
"""
