"""Whether nothing is lost, run, overwritten or left unexplained: the whole trial, repeatable."""
