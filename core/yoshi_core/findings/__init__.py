"""What a step says: verdict, reasons, figures, pictures."""
