"""`python -m weary_cedar`: the command line."""

from weary_cedar.cli import main

if __name__ == "__main__":
    main()
