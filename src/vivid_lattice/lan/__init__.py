"""Reaching the server from a phone on the local network: certificates, access token, pairing."""
