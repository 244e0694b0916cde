"""The depot: a small service of its own, to share packages. It stands in for a shared one; it knows nothing of
projects.
"""
