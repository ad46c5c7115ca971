"""The kit: phones, their lenses, modes and the steps they really offer."""
