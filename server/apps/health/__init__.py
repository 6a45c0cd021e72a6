"""Plant health: a site at a glance, biosecurity status, movement holds, the weather station."""
