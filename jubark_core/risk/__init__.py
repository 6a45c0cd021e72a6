"""The risk worksheet by the published matrices."""
