"""Meters, readings, estimated states and plans."""
