"""The Sheets desk: what do I hand on?"""
