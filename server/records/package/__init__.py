"""A lab as one file in open formats: a zip with a Frictionless Data Package (specs.frictionlessdata.io), and back."""
