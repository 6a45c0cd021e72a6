"""TypedDicts as JSON Schema and as a check: both say the same, held against a general-purpose validator."""

from __future__ import annotations

import copy
import unittest
from typing import Annotated, Any, Literal, NotRequired, TypedDict

from hypothesis import given
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from jubark_core import door
from jubark_core.errors import InputError
from jubark_core.records.typed_schema import (
    MOST_MEMBERS,
    Between,
    Recorded,
    hint_schema,
    require_shape,
    typed_components,
)
from jubark_core.tests.door_requests import SOUND
from jubark_core.tests.profiles import examples

EXAMPLES = examples(200)


class Leaf(TypedDict):
    """A small thing."""

    name: str
    count: NotRequired[Annotated[int | None, Between(0, 10)]]


class Tree(TypedDict):
    """Everything a hint can say."""

    word: Literal["a", "b"]
    share: Annotated[float, Between(0, 1), "0 to 1."]
    leaves: list[Leaf]
    by_name: dict[str, int]
    either: NotRequired[str | int]
    open: NotRequired[Any]
    record: NotRequired[Annotated[dict[str, Any], Recorded("EntryIn")]]


SOUND_TREE: dict[str, Any] = {
    "word": "a",
    "share": 0.5,
    "leaves": [{"name": "x", "count": 3}, {"name": "y"}],
    "by_name": {"x": 1},
    "either": 5,
}
ODD = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-3, 12),
    st.floats(-2, 2),
    st.text(max_size=3),
    st.just([]),
    st.just({}),
    st.just({"name": 1}),
)


def validator(hint: Any) -> Draft202012Validator:
    components: dict[str, Any] = {"EntryIn": {}}
    schema = hint_schema(hint, components)
    return Draft202012Validator({**schema, "components": {"schemas": components}})


def allowed(hint: Any, raw: Any) -> bool:
    try:
        require_shape(hint, raw)
    except InputError:
        return False
    return True


@st.composite
def spoilt(draw: Any, sound: Any) -> Any:
    """A sound value with one place in it replaced, taken out or added to."""
    whole = copy.deepcopy(sound)
    at = whole
    while isinstance(at, dict | list) and at:
        key = draw(st.sampled_from(list(at) if isinstance(at, dict) else list(range(len(at)))))
        if isinstance(at[key], dict | list) and at[key] and draw(st.booleans()):
            at = at[key]
            continue
        what = draw(st.sampled_from(["replaced", "gone", "more"]))
        if what == "replaced":
            at[key] = draw(ODD)
        elif what == "gone":
            del at[key]
        elif isinstance(at, dict):
            at["more"] = draw(ODD)
        else:
            at.append(draw(ODD))
        break
    return whole


class SchemaAndCheck(unittest.TestCase):
    def test_the_schema_of_a_typed_dict_by_hand(self) -> None:
        found = typed_components(Leaf)
        self.assertEqual(
            found["Leaf"],
            {
                "type": "object",
                "description": "A small thing.",
                "properties": {
                    "name": {"type": "string"},
                    "count": {
                        "oneOf": [{"type": "integer"}, {"type": "null"}],
                        "minimum": 0,
                        "maximum": 10,
                    },
                },
                "additionalProperties": False,
                "required": ["name"],
            },
        )
        self.assertEqual(
            hint_schema(list[Leaf]), {"type": "array", "items": {"$ref": "#/components/schemas/Leaf"}}
        )

    def test_what_no_schema_can_say_is_refused_when_it_is_made(self) -> None:
        self.assertRaises(TypeError, hint_schema, set[int])

    @EXAMPLES
    @given(spoilt(SOUND_TREE))
    def test_the_check_and_the_validator_agree(self, raw: Any) -> None:
        # a whole number written as 2.0 is an integer to JSON Schema; the core asks for a whole number as such
        if not _has_whole_float(raw):
            self.assertEqual(allowed(Tree, raw), validator(Tree).is_valid(raw), raw)

    def test_every_sound_request_of_the_door_is_valid_by_its_schema(self) -> None:
        components = door.door_components()
        for name, what in door.OPERATIONS.items():
            schema = {**hint_schema(what.takes), "components": {"schemas": components}}
            errors = [e.message for e in Draft202012Validator(schema).iter_errors(SOUND[name])]
            self.assertEqual(errors, [], name)


def _has_whole_float(raw: Any) -> bool:
    if isinstance(raw, dict | list):
        return any(_has_whole_float(v) for v in (raw.values() if isinstance(raw, dict) else raw))
    return isinstance(raw, float) and raw.is_integer()


class Refusals(unittest.TestCase):
    def test_each_names_the_place_the_value_and_what_is_allowed(self) -> None:
        for change, place, said in (
            ({"word": "c"}, "word", "one of a, b"),
            ({"share": 2}, "share", "from 0 to 1"),
            ({"share": "much"}, "share", "a number"),
            ({"share": True}, "share", "a number"),
            ({"share": float("inf")}, "share", "a number"),
            ({"share": 10**400}, "share", "a number"),
            ({"leaves": {}}, "leaves", "a list"),
            ({"leaves": [{"name": "x"}, {"name": 5}]}, "leaves[1].name", "a text"),
            ({"leaves": [{"name": "x", "count": 11}]}, "leaves[0].count", "from 0 to 10"),
            ({"leaves": [{"name": "x", "count": 1.5}]}, "leaves[0].count", "a whole number"),
            ({"leaves": [{}]}, "leaves[0].name", "it is required"),
            ({"leaves": [{"name": "x", "more": 1}]}, "leaves[0].more", "one of name, count"),
            ({"by_name": {"x": "one"}}, "by_name.x", "a whole number"),
            ({"either": None}, "either", "a text or a whole number"),
            ({"leaves": [{"name": "x"}] * (MOST_MEMBERS + 1)}, "leaves", f"at most {MOST_MEMBERS} members"),
        ):
            with self.subTest(place, said=said), self.assertRaises(InputError) as caught:
                require_shape(Tree, {**SOUND_TREE, **change})
            self.assertEqual((caught.exception.place, caught.exception.allowed), (place, said))

    def test_what_the_records_describe_is_left_to_their_own_reader(self) -> None:
        require_shape(Tree, {**SOUND_TREE, "record": 5})
