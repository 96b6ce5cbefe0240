"""Music on paper: page setup, sheets laid out in pages, and what they are painted on."""
