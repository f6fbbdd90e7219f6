"""Mail, by the server named in the settings."""

from django.core.mail import EmailMessage

from tasks.queue import Step


def deliver(step: Step) -> None:
    """Send one mail. A kill between the sending and its being kept sends it twice, never not at all."""
    given = step.given
    EmailMessage(given["subject"], given["words"], to=[given["to"]]).send()
