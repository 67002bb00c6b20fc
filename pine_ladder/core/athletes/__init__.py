"""Athletes: what is known of them, their loads and versions, what their scores teach."""
