"""What is kept: SQLite by plain SQL, pictures beside it by content hash."""
