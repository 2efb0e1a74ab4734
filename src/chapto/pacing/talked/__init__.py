"""From a talk-through to a programme: which words stay, the picture meant under each, what is left out and why."""
