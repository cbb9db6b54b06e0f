"""The innermost loops, compiled: what is done for each patch, each zone of air and each ray, over and over.

NumPy does each of these with a dozen calls on a few hundred figures, of which nearly all is the calling. Numba compiles
them when they are first called, and keeps what it compiled beside the file or in the user's cache folder.

Two rules: what is kept goes by the date of the kernel's own file, so a kernel calls none of another file, and constants
are handed in. The equations, their symbols, ranges and sources stand with the functions that call the kernels.
"""
