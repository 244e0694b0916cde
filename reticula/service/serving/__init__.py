"""How requests come in: the asynchronous front, requests that wait without a thread, and the line of a page."""
