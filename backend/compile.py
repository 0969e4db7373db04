"""Builds the heart of the run as machine code, with mypyc; see `weary_cedar.machine_code`.

Without a C compiler, or the headers of Python, nothing is built, and the program runs from its source.
"""

import os
import shutil
import sys
import sysconfig
import tempfile
from pathlib import Path

SOURCE = Path(__file__).resolve().parent / "src"
sys.path.insert(0, str(SOURCE))

from weary_cedar.machine_code import FOLDER, PARTS, is_fresh, seal


def can_compile() -> bool:
    """Whether a C compiler and the headers of this Python are here."""
    compiler = (sysconfig.get_config_var("CC") or "cc").split()[0]
    return bool(shutil.which(compiler)) and (Path(sysconfig.get_path("include")) / "Python.h").is_file()


def files(rooms: dict[str, str]) -> list[str]:
    """Modules of one part, as paths from the source."""
    return [
        f"weary_cedar/core/{room}/{module}.py"
        for room, modules in rooms.items()
        for module in modules.split()
    ]


def build(into: Path, between: Path) -> None:
    """Compile every part."""
    from mypyc.build import mypycify
    from setuptools import setup

    parts: list[tuple[list[str], str | None]] = [(files(rooms), name) for name, rooms in PARTS.items()]
    named = [file for group, _ in parts for file in group]
    config = ["--config-file", str(SOURCE.parent / "pyproject.toml"), "--cache-dir", str(between / "types")]
    extensions = mypycify(
        [*config, *named], opt_level="1", debug_level="0", separate=parts, target_dir=str(between)
    )
    where = ["--build-lib", str(into), "--build-temp", str(between)]
    setup(
        name="weary-cedar",
        ext_modules=extensions,
        script_args=["--quiet", "build_ext", *where, "--parallel", "2"],
    )


def wanted() -> bool:
    """Whether something is to be built; says so where it cannot be."""
    if is_fresh():
        return False
    shutil.rmtree(FOLDER, ignore_errors=True)
    if not can_compile():
        sys.stdout.write(
            "No C compiler, or no headers of Python: the run goes from its source, and slower.\n"
        )
        return False
    return True


def main() -> None:
    """Build, unless what is there is fresh; with --wanted only tell by the exit code whether to."""
    if "--wanted" in sys.argv:
        sys.exit(not wanted())
    if not wanted():
        return
    sys.stdout.write("Compiling the run: about a minute, once.\n")
    sys.stdout.flush()
    os.chdir(SOURCE)
    try:
        with tempfile.TemporaryDirectory() as between:
            build(FOLDER, Path(between))
    except (Exception, SystemExit) as failed:
        shutil.rmtree(FOLDER, ignore_errors=True)
        sys.stdout.write(f"It could not be compiled ({failed}): the run goes from its source, and slower.\n")
        return
    seal()


if __name__ == "__main__":
    main()
