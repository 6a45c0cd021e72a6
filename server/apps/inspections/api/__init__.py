"""HTTP doors of the inspections app: translate, nothing else."""
