"""From a lab to the core’s task and plan and back; changes by hand, and taking them back."""
