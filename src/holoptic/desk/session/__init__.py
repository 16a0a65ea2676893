"""What the desk works on: the job, what is in hand, what the worker answered."""
