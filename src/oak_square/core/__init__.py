"""Numbers only: lengths, frames, scene, the two verbs, boxes, survey. Knows no file and no window."""
