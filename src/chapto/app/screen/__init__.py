"""The screen: the same picture and player in every stage."""
