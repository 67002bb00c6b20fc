"""Fitting the pace model, and auditing the library of movements it speaks of.

For developers: nothing of it is part of what users install.
"""
