"""The sorts of exercises, a module each: what is asked, and the proof that one answer is right."""
