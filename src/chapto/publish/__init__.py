"""What goes beside the video: captions and the chapter list."""
