"""Stand-ins: groups, faults, streams of a meter, rehearsals."""
