"""What a method does: sentences to clauses, clauses to operations on things, things to what is
eaten."""
