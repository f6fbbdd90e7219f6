"""What is looked up and compared outside a job."""
