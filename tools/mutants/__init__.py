"""Do the tests notice a mistake?  python -m tools.mutants [core] [server] [web] [--count N] [--seed N]"""
