"""The command line: thin, on the same core as the app. JSON out, sentences on stderr."""
