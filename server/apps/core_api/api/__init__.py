"""HTTP doors of naming: translate, nothing else."""
