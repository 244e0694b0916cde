"""Proof sheets over HTTP, and what makes their variants."""
