"""The simulated client and camera: any standard performed, with ground truth next to it."""
