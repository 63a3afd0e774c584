"""The commands of the command line, a module for each errand, and what they share."""
