"""Reading footage: probing, decoding by time stamps, caches, proxies, sound."""
