"""What a class found: comparison, accounts, claims, and the notes on each."""
