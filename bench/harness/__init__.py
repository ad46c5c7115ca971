"""What every benchmark uses: references, ratios, bounds, the app started, the page of results."""
