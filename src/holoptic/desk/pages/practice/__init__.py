"""Practice: one exercise at a time, all by keyboard, apart from the job."""
