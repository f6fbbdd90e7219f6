"""What a device asks when there is no server: the same rules behind one function from text to text."""
