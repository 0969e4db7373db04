"""What is worked out from a plan's document, in processes of their own: texts in, texts out."""
