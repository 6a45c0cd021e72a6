"""HTTP doors of stems: translate, nothing else."""
