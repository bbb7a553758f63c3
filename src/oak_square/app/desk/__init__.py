"""Between the session, the facts and the views: carries wishes in and notices out."""
