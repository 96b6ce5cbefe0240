"""Tags as they are typed."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from gavotte.solo.tags import read_tags, written_tags


def test_tags_stand_between_commas_each_once() -> None:
    assert read_tags(" hard bop,  cool ,,hard  bop") == ("hard bop", "cool")
    assert read_tags("") == ()


@given(st.text())
def test_what_was_read_is_read_again(text: str) -> None:
    tags = read_tags(text)
    assert read_tags(written_tags(tags)) == tags
