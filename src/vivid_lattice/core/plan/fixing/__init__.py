"""What cables and conduit are fixed with and led through: clips, saddles, holes, notches, chases; and where to mark them out."""
