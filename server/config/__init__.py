"""Settings, addresses, errors: what the apps share."""
