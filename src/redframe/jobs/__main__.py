"""`python -m redframe.jobs`: a worker of the background jobs."""

from redframe.jobs.worker import main

main()
