"""Mail goes out as a task, so that no request waits for a mail server."""

from accounts.models import Shop
from tasks.queue import add


def send(shop: Shop, to: str, subject: str, words: str) -> None:
    """Have a mail sent, once the transaction around this is done."""
    add("mail", {"to": to, "subject": subject, "words": words}, shop_id=shop.pk)
