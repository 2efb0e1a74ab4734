"""The breakdown: what the creator decided, as one immutable tree, and the edits that make the next one."""
