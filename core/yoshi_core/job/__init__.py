"""What is done with a document: evaluate, patch, close, visit, read, write."""
