"""HTTP doors of organisations: translate, nothing else."""
