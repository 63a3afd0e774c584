"""What is done beside the request: jobs, processes, searches, papers."""
