"""Recording a narrator: microphones and their stand-in, the file a kill leaves whole, meter and room."""
