"""What survives kill -9 and clients that stall: the demonstration as it is started, on a database
of its own.
"""
