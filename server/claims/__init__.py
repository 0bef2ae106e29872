"""Claims: what groups say became of the volts, weighed on what was recorded; rows live in findings."""
