"""Athletes: profiles, scaling, learning."""
