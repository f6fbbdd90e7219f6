"""How much goes in, and what holds it: total, lines, tubes, rooms, weighing in, cylinders, recovery, oil."""
