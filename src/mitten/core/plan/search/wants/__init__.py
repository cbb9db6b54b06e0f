"""What is wanted and in which box: the brief, the animal's wishes, furniture, small changes of the box."""
