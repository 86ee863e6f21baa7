"""Deciding with the customer: what can be done about a wheel, what each way takes, costs and reaches."""
