"""Signs and symptoms, what causes them, and which cause fits a plant here and now."""
