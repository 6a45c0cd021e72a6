"""The launcher behind ./jubark: sets up what is missing, then runs. Standard library only."""

from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
