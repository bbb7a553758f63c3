"""What formats have in common: what each offers, meshes as other formats take them, and the way from one to another."""
