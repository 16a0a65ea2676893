"""What a kernel shape is made of: faces, edges, borders, round features; each looked into once."""
