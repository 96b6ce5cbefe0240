"""Players for benchmarks and tests: lines as people play them, on made, sampled and recorded sounds, in rooms."""
