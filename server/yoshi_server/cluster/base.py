"""Django's MariaDB backend with a list of nodes in `OPTIONS["nodes"]`: a new connection goes to the first that takes it.

A node that is catching up or has lost its cluster answers, and refuses to be read (1047); it counts as gone too.
"""

from typing import Any

import MySQLdb
from django.db.backends.mysql import base

UNPREPARED = 1047  # "WSREP has not yet prepared node for application use" (from memory)
LAST = [0]  # the node of this process that answered last
GONE = (2002, 2003, 2006, 2013, UNPREPARED)


class DatabaseWrapper(base.DatabaseWrapper):
    """Tries the nodes in their order; stays with the one that answered last."""

    def get_connection_params(self) -> dict[str, Any]:
        params: dict[str, Any] = super().get_connection_params()
        self._nodes: list[tuple[str, int]] = params.pop("nodes")
        return params

    def get_new_connection(self, conn_params: dict[str, Any]) -> Any:
        """The first node that takes a connection and may be read."""
        refused: MySQLdb.OperationalError | None = None
        for turn in range(len(self._nodes)):
            place = (LAST[0] + turn) % len(self._nodes)
            host, port = self._nodes[place]
            try:
                made = super().get_new_connection({**conn_params, "host": host, "port": port})
                made.query("SELECT 1 FROM DUAL")
                made.store_result()
            except MySQLdb.OperationalError as error:
                if error.args[0] not in GONE:
                    raise
                refused = error
            else:
                LAST[0] = place
                return made
        assert refused is not None
        raise refused
