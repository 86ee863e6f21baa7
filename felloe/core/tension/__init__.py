"""Spoke tension: meters, evenness, the ratio that statics asks for."""
