"""What a screen needs to show a sheet, made from its light and its plan."""
