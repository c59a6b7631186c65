"""What a reading that disagrees usually means: defects put into the circuit, their readings predicted, ranked by how well they fit."""
