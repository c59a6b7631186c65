"""The trade: rules, tables and arithmetic. Pure: no I/O beyond its own packaged data, no clock."""
