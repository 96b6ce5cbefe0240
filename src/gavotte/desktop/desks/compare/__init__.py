"""The Compare desk: how do these solos and players differ?"""
