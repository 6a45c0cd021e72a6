"""The flora: vocabulary, taxa, the tree of taxa, its checks and its compiled form."""
