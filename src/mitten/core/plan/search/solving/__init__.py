"""One combination in full: built, its setpoints solved, watered, made safe, and how sure it is."""
