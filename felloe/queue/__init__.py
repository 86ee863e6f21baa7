"""Jobs, their stages and the rail."""
