"""The steps of a job, a package each: its sheet, its judging, its report."""
