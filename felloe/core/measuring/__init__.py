"""Taking readings: instruments and their checks, which to take next, files and streams of them."""
