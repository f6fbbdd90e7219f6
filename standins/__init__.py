"""Simulated instruments that post to Yoshi as real ones would: over HTTP, with a token, fed by the practice rig."""
