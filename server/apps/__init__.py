"""The server's apps: one per area of the trade."""
