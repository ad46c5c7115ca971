"""Routes of shop series: the list, what is shot, what was checked, and handing over."""
