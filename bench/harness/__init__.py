"""What every benchmark uses: references, ratios and their spread, bounds, the app started, the page of results."""
