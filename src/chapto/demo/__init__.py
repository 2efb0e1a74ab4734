"""The invented demo bout: its animation, its footage and its breakdown."""
