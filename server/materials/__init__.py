"""The teacher’s own materials and the cupboard."""
