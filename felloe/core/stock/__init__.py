"""Parts in the bins: what they are, who has a claim on them, what may stand in, what to order."""
