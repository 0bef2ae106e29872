"""Power: cells in a row until something lights."""
