"""Recover: what comes out, into what, and what its weight says."""
