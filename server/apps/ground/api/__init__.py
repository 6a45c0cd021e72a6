"""HTTP doors of ground: translate, nothing else."""
