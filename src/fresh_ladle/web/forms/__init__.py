"""What pages send: one model for each form, with the fields as typed and the values they stand for."""
