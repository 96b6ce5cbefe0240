"""The page: the engraved solo with chord symbols above and the function lane below every staff."""
