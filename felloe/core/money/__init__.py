"""What a repair costs: lines, tax, what stands open."""
