"""Routes of the gym itself: settings, tiers, programmes, set-up."""
