"""The job as data: model, sheets, schema, ledger."""
