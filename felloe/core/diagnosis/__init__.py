"""What is wrong with this wheel: causes, checks, and what each answer says."""
