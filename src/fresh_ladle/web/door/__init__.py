"""Who comes in: access, identity, what is sent and how."""
