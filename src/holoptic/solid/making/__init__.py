"""From a part to its exact solid: tools, runs of operations, stages where something fails."""
