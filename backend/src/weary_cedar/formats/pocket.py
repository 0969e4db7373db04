"""The pocket file: the sheets of a plan as one page that needs neither a server nor a network."""

import json
from collections.abc import Sequence
from html import escape
from pathlib import Path

from weary_cedar.core.errors import NotFound, Problem
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheet import CAUTIONS, Sheet

#: What the screens build for it: its script and its style, in one piece each.
PAGE = Path(__file__).parent / "page"

HTML = """<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; script-src 'unsafe-inline'; \
style-src 'unsafe-inline'; font-src data:; img-src data:">
<title>{title}</title>
<style>{style}</style>
</head>
<body>
<div id="root"></div>
<noscript>{plain}</noscript>
<script type="application/json" id="pocket">{data}</script>
<script>{script}</script>
</body>
</html>
"""


def pocket_html(plan: Plan, plan_id: str, revision: int, sheets: Sequence[Sheet], born: str = "") -> str:
    """The sheets of a plan in one file of HTML.

    Args:
        plan: the plan that they are of.
        plan_id: under which its record is taken in again.
        revision: of the plan; 0 of a file that is in no data folder.
        sheets: in their order; one that is held back says by what.
        born: when the plan was begun in its data folder.

    Returns:
        A page with everything in it. Same plan, same bytes.

    Raises:
        NotFound: the screens are not built.
    """
    try:
        script = (PAGE / "pocket.js").read_text("utf-8")
        style = (PAGE / "pocket.css").read_text("utf-8")
    except FileNotFoundError:
        problem = Problem("/page", "not there", "to build the screens first: make setup")
        raise NotFound(str(problem), (problem,)) from None
    data = {
        "plan_id": plan_id,
        "name": plan.name,
        "revision": revision,
        "born": born,
        "zone": plan.site.time_zone,
        "clock": plan.site.units.clock,
        "cautions": CAUTIONS,
        "sheets": [sheet.model_dump(mode="json") for sheet in sheets],
    }
    return HTML.format(
        title=escape(f"{plan.name}: sheets"),
        style=style.replace("</style", "<\\/style"),
        plain="These sheets need scripts; take the ones on paper.",
        data=json.dumps(data, ensure_ascii=True, separators=(",", ":")).replace("<", "\\u003c"),
        script=script.replace("</script", "<\\/script"),
    )
