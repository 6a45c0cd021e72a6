"""HTTP doors of crews: translate, nothing else."""
