"""Signs of pests and diseases: the vocabulary and what each usually means."""
