"""Suspect cases of notifiable disease: what follows on what, who may do it, what it must show."""
