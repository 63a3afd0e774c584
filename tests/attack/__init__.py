"""The workbench under attack: schema-driven fuzzing, kills in the middle of writes, bombs, a
crowd."""
