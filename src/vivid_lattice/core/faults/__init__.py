"""What happens when: an event in the installation, the devices that open for it, and what loses supply."""
