"""What hands and automatisms move in a house: handles, the conductors that they join, what meets there."""
