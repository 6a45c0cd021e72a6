"""What is changed of plant health: one module for each command."""
