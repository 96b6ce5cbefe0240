"""Writing: what a transcriber does to a solo while writing it down, as functions from a solo to a new one."""
