"""What is printed of a job."""
