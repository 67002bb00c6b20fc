"""E-mail addresses as people type them."""

from __future__ import annotations

from email_validator import EmailNotValidError, validate_email

LONGEST_ADDRESS = 200


def read_address(text: str) -> str:
    """An e-mail address in the form it is stored and compared in: trimmed, in small letters.

    International addresses are kept as they are written. ValueError, in a sentence, for text that
    is not an address; nothing is asked of the network.

    >>> read_address(" Ada@Gym.Example ")
    'ada@gym.example'
    """
    typed = text.strip().lower()
    try:
        checked = validate_email(typed, check_deliverability=False)
        if "=?" in typed:
            # A mail header would take it for encoded words, and unpack it.
            raise EmailNotValidError
    except EmailNotValidError:
        raise ValueError(f"{text.strip() or 'Nothing'} is not an e-mail address.") from None
    if len(checked.normalized) > LONGEST_ADDRESS:
        raise ValueError(f"An e-mail address has at most {LONGEST_ADDRESS} characters.")
    return checked.normalized.lower()
