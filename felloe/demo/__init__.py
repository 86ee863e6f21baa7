"""The demo shop: the Wheel Room at Tern Quay, all invented."""
