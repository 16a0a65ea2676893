"""Speed as ratios measured in one run; nothing here is a test."""
