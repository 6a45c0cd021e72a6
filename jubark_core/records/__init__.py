"""Every kind of entry and every thing described once: fields, units, words, versions."""
