"""The Workshop desk: what can be made of a line?"""
