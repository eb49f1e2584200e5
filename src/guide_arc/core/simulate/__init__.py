"""The simulated client and camera: any standard performed, with ground truth beside it."""
