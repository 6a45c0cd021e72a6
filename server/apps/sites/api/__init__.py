"""HTTP doors of site: translate, nothing else."""
