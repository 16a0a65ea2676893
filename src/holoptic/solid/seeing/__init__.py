"""What is seen of a solid along a direction: the kernel's hidden lines, and looking again."""
