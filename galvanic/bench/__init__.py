"""What happens at the bench: readings, meters, checks, loggers, whom to go and see."""
