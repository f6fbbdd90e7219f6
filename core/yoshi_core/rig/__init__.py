"""The practice rig: a simulated unit that answers like a real one. A model, checked against the trade and itself."""
