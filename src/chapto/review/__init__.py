"""What is open and what is best done next: small checks, each in one place."""
