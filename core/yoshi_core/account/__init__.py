"""What is inside a circuit, in the order it happened: lines from the steps, a balance after each."""
