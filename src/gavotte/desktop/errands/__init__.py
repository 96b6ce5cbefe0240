"""What is asked for at any desk: import, export, begin a solo, keep a lick, delete, rename, change details."""
