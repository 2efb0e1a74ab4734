"""Scripts from elsewhere: text, Markdown and caption files as people really have them, with times and speakers."""
