"""The Shelf stage: over all breakdowns, what to find, what is covered, promised, agreed to and planned."""
