"""Pictures coming in: kept, and tied to a sheet as what it meters or as a take of it."""
