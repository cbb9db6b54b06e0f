"""What is read off a solution: fields, points, probes, hides, hot parts, bodies and the climate by name."""
