"""From the shell, whatever the window can do with figures."""
