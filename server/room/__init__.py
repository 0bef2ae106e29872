"""The board, whom to go and see, and the teacher’s hand on a running lab."""
