"""Practice set as homework for a lab: a code opens it, devices send what they named, and nobody is named."""
