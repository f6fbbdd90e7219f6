"""A database backend for several nodes of one cluster: the first that answers is used, and another when it is gone."""
