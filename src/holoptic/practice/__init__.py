"""Practice: exercises that have exactly one right answer, how they are marked, what comes next."""
