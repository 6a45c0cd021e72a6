"""HTTP doors of exchange: translate, nothing else."""
