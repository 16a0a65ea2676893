"""Pictures of sheets (scans, photos): what they show is found again as lines with roles."""
