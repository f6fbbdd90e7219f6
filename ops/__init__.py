"""Set-up, database, serving and checks: what `./start` and `./test` do. Standard library only."""
