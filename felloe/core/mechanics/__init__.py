"""The mechanical model of the wheel, and the state estimated from readings."""
