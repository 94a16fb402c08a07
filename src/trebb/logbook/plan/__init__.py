"""The job as a whole: its tasks, stock, money, order and papers."""
