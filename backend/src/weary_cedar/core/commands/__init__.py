"""Commands: everything that a person does to a plan as one named act, the same over the API and typed."""

from collections.abc import Sequence
from typing import Annotated, Any, Final

from pydantic import Field, TypeAdapter, ValidationError

from weary_cedar.core.commands.blocks import MoveBlock, RemoveBlock
from weary_cedar.core.commands.command import Command, refused
from weary_cedar.core.commands.gear import Packs, Swap
from weary_cedar.core.commands.parts import MarkCircuits, Remove, Rename
from weary_cedar.core.commands.plugging import Cords, FeedAgain, Inlet, Plug
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.plan import Plan, read_plan

AnyCommand = Annotated[
    Remove
    | Rename
    | MarkCircuits
    | Plug
    | FeedAgain
    | Inlet
    | Cords
    | Swap
    | Packs
    | MoveBlock
    | RemoveBlock,
    Field(discriminator="command"),
]
COMMANDS: Final[dict[str, type[Command]]] = {
    str(kind.model_fields["command"].default): kind
    for kind in (
        Remove,
        Rename,
        MarkCircuits,
        Plug,
        FeedAgain,
        Inlet,
        Cords,
        Swap,
        Packs,
        MoveBlock,
        RemoveBlock,
    )
}
#: How each is typed.
USAGES: Final = tuple(kind.usage for kind in COMMANDS.values())
_ANY: Final[TypeAdapter[Any]] = TypeAdapter(AnyCommand)


def do(plan: Plan, command: Command) -> Plan:
    """The plan after a command, read as any document is.

    Args:
        plan: the plan; it stays as it is.
        command: what is done.

    Raises:
        NotFound: a part that it names is not there.
        InvalidInput: it cannot be done so.
        InvalidPlan: the plan would contradict itself.
    """
    return read_plan(command.made(plan).model_dump(mode="json", exclude_none=True))


def command_from(told: Any) -> Command:
    """A command from its fields.

    Raises:
        InvalidInput: a field that is missing, unknown or wrong, by name.
    """
    try:
        found: Command = _ANY.validate_python(told)
    except ValidationError as error:
        first = error.errors()[0]
        place = "/".join(str(step) for step in first["loc"][1:])
        problem = Problem(f"/{place or 'command'}", shown(first["input"]), first["msg"])
        raise InvalidInput(str(problem), (problem,)) from None
    return found


def typed(words: Sequence[str]) -> Command:
    """A command as it is typed: its name, then its fields in their order.

    Args:
        words: such as `mark`, `keep`, `fridge`, `freezer`.

    Raises:
        InvalidInput: no such command, or words that are missing or too many.
    """
    kind = COMMANDS.get(words[0]) if words else None
    if kind is None:
        raise refused("COMMAND", words[0] if words else "nothing", f"one of {', '.join(COMMANDS)}")
    told: dict[str, Any] = {"command": words[0]}
    rest = list(words[1:])
    names = [name for name in kind.model_fields if name != "command"]
    for name in names:
        if name.endswith("_ids"):
            told[name], rest = tuple(rest), []
        elif rest:
            word = rest.pop(0)
            free = not kind.model_fields[name].is_required()
            told[name] = None if free and word == "none" else kind.read(name, word)
    wanted = [name for name in names if kind.model_fields[name].is_required() and told.get(name, ()) == ()]
    if rest or wanted:
        got = " ".join(words)
        raise refused("COMMAND", got, f"written as: {kind.usage}")
    return command_from(told)
