"""E-mail addresses as people type them, checked by the library of the field."""

import pytest

from pine_ladder.core.athletes.addresses import read_address


@pytest.mark.parametrize(
    ("typed", "kept"),
    [
        (" Ada@Gym.Example ", "ada@gym.example"),
        ("jörg@exämple.org", "jörg@exämple.org"),
        ("a.b+hall@mail.example", "a.b+hall@mail.example"),
    ],
)
def test_an_address_is_kept_trimmed_and_in_small_letters(typed, kept):
    assert read_address(typed) == kept
    assert read_address(kept) == kept


@pytest.mark.parametrize(
    "typed", ["", "finn", "a@[b.c", "=?utf-8?b?Z2VoZWlt?=@b.c", "a b@c.de", "a@b..c", "a@b\nc.de"]
)
def test_text_that_is_not_an_address_is_refused_in_a_sentence(typed):
    with pytest.raises(ValueError, match="is not an e-mail address"):
        read_address(typed)
