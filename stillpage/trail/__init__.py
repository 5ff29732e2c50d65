"""The audit trail: who did what, when, from where. Added to, never changed."""
