"""The rules of the job and their computation.

Pure: no SQL, no HTTP, no clock and no files but the data that ships beside the code. `today`, the weather,
the association's policy and the catalogue are arguments; randomness takes a generator.
"""
