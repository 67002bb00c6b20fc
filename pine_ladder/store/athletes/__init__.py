"""What is known of athletes and learnt of them."""
