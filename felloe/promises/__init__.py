"""When a wheel is ready: estimates, promises, and the rail that they hang on."""
