"""Write: words on paper beside the picture, the lacing beneath."""
