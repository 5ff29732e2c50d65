"""Documents that other people wrote, as they come with the packages that the tests install anyway."""
