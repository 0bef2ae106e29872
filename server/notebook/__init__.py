"""A group's notebook: its own words beside what it recorded, handed in, marked and given back."""
