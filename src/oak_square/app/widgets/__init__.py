"""Lists, strips, fields and menus: each shows a value and sends wishes out."""
