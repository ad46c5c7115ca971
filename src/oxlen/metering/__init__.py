"""Light of a sheet: its pictures and readings, measured once and handed on."""
