"""The names of the sport: positions and techniques with their schools of naming, risks, and finding them quickly."""
