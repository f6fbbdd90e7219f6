"""What the gauges can mean: every cause that fits, ranked, with what speaks for and against it and the next cheap check."""
