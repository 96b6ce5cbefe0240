"""The Phrases desk: how is the solo built, and what lies under it?"""
