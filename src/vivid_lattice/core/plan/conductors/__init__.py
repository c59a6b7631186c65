"""What each section of a circuit has to carry, and what joins in each box: by what its lights, switches and outlets must do."""
