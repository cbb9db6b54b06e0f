"""The air: its zones and flows, films on surfaces, exchange with the room, and its water."""
