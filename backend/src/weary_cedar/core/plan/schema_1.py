"""From version 1 of the plan document: feeds with their sources and recharges become feeds and leads.

A feed of version 1 held what is fixed and what is plugged in one; its lead keeps its id. Feeds that took
turns through one inlet, and say the same of it, become one feed with several leads.
"""

from collections.abc import Iterable, Mapping
from typing import Any

Json = dict[str, Any]

#: What of a feed of version 1 was plugged, not fixed.
PLUGGED = ("source_id", "receptacle_id", "cords", "adapters", "bonding_plug")
#: Questions of the survey that are about what is plugged.
OF_LEADS = (
    "one-outlet",
    "cord-in-the-open",
    "cord-unwound",
    "polarity-checked",
    "exclusive",
    "bonding-plug-allowed",
    "neutral-set",
)
#: Checks that speak about what is fixed: answers to them stay with the feed.
OF_FEEDS = (
    "feed-no-transfer",
    "feed-male-plug",
    "feed-upstream",
    "feed-hold-down",
    "breaker-line-load",
    "interlock-unlisted",
    "feed-sign",
    "xfer-service-rated",
    "wire-breaker",
    "bus-sum",
    "uk-neutral-switch",
    "uk-earth-island",
    "uk-float-feed",
    "uk-rcd-direction",
)


class FromSchema1:
    """A document of version 1 as one of version 2, and where each of its fields stood."""

    def __init__(self, document: Json) -> None:
        self._old = document
        #: Pointer in version 2 → pointer in version 1, for what moved.
        self._moved: dict[str, str] = {}
        self._leads: Json = {}
        self._feeds: Json = {}
        #: Feed of version 1 → the feed that it is now; nothing where it was cords.
        self._feed_of: dict[str, str] = {}
        self._lead_of_recharge: dict[str, str] = {}
        self.document = self._made()

    def told(self, pointer: str) -> str:
        """A pointer into version 2 as one into the document that was read."""
        for new in sorted(self._moved, key=len, reverse=True):
            if pointer == new or pointer.startswith(f"{new}/"):
                return self._moved[new] + pointer[len(new) :]
        return pointer

    def _made(self) -> Json:
        made = {key: value for key, value in self._old.items() if key not in ("feeds", "recharges")}
        feeds, recharges = self._old.get("feeds"), self._old.get("recharges")
        for key, feed in sorted(feeds.items()) if isinstance(feeds, dict) else ():
            self._from_feed(key, feed)
        for key, item in recharges.items() if isinstance(recharges, dict) else ():
            self._from_recharge(key, item)
        if feeds is not None:
            made["feeds"] = self._feeds if isinstance(feeds, dict) else feeds
        if recharges is not None and not isinstance(recharges, dict):
            made["leads"] = recharges
            self._moved["/leads"] = "/recharges"
        elif feeds is not None or recharges is not None:
            made["leads"] = self._leads
        if isinstance(made.get("stations"), dict):
            made["stations"] = {key: _with_idle(station) for key, station in made["stations"].items()}
        if isinstance(made.get("externals"), dict):
            made["externals"] = {key: _with_share(battery) for key, battery in made["externals"].items()}
        return self._renamed(made)

    # ---------------------------------------------------------------- feeds

    def _from_feed(self, key: str, feed: Any) -> None:
        if not isinstance(feed, dict):
            self._feeds[key] = feed
            return
        at, was = f"/leads/{key}", f"/feeds/{key}"
        survey = feed.get("survey")
        asked = survey if isinstance(survey, dict) else {}
        lead: Json = {"source": self._source(feed), **_picked(feed, ("cords", "adapters", "bonding_plug"))}
        if plugged := {q: a for q, a in asked.items() if q in OF_LEADS or feed.get("kind") == "cords"}:
            lead["survey"] = plugged
        for new, old in (
            ("source/outlet", "receptacle_id"),
            ("source/id", "source_id"),
            ("source", "source_id"),
        ):
            self._moved[f"{at}/{new}"] = f"{was}/{old}"
        self._moved[at] = was
        if feed.get("kind") == "cords":
            lead["to"] = self._to_loads(at, was, feed)
        else:
            lead["to"] = {"end": "feed", "feed_id": self._feed(key, feed, asked)}
        self._leads[key] = lead

    def _source(self, feed: Json) -> Json:
        source_id = feed.get("source_id")
        found: Json = {"kind": self._kind(source_id)}
        if "source_id" in feed:
            found["id"] = source_id
        if "receptacle_id" in feed:
            found["outlet"] = feed["receptacle_id"]
        return found

    def _kind(self, source_id: object) -> str:
        for kind in ("generator", "link"):
            room = self._old.get(f"{kind}s")
            if isinstance(room, dict) and isinstance(source_id, str) and source_id in room:
                return kind
        return "station"

    def _to_loads(self, at: str, was: str, feed: Json) -> Json:
        end: Json = {"end": "loads", **_picked(feed, ("circuit_ids",))}
        end["plug"] = feed.get("inlet", "L14-30")
        if "inlet_a" in feed:
            end["plug_a"] = feed["inlet_a"]
        if "breaker_a" in feed and feed.get("breaker_a") != feed.get("inlet_a"):
            end["overcurrent_a"] = feed["breaker_a"]
        for new, old in (("plug", "inlet"), ("plug_a", "inlet_a"), ("overcurrent_a", "breaker_a")):
            self._moved[f"{at}/to/{new}"] = f"{was}/{old}"
        self._moved[f"{at}/to"] = was
        return end

    def _feed(self, key: str, feed: Json, asked: Json) -> str:
        """The fixed part; that of another feed where both stand for one inlet."""
        fixed = {name: value for name, value in feed.items() if name not in (*PLUGGED, "survey")}
        own = {question: value for question, value in asked.items() if question not in OF_LEADS}
        for other, held in self._feeds.items():
            if not isinstance(held, dict) or not fixed.get("breaker_spaces"):
                continue
            if {name: value for name, value in held.items() if name != "survey"} == fixed:
                if survey := _agreed(held.get("survey", {}), own):
                    held["survey"] = survey
                else:
                    held.pop("survey", None)
                self._feed_of[key] = other
                return other
        self._feeds[key] = {**fixed, **({"survey": own} if own else {})}
        if "survey" in feed and not isinstance(feed["survey"], dict):
            self._feeds[key]["survey"] = feed["survey"]
        self._feed_of[key] = key
        return key

    # ---------------------------------------------------------------- recharges

    def _from_recharge(self, key: str, item: Any) -> None:
        lead_id = key
        while lead_id in self._leads:
            lead_id = f"{lead_id[:33]}-charge"
        self._lead_of_recharge[key] = lead_id
        at, was = f"/leads/{lead_id}", f"/recharges/{key}"
        self._moved[at] = was
        if not isinstance(item, dict):
            self._leads[lead_id] = item
            return
        source = {new: item[old] for new, old in (("kind", "kind"), ("id", "from_id")) if old in item}
        known = ("station_id", "input_id", "setting_w", "when")
        end = {"end": "input", **_picked(item, known)}
        rest = {name: value for name, value in item.items() if name not in (*known, "kind", "from_id")}
        self._leads[lead_id] = {**rest, "source": source, "to": end}
        for new, old in (("source/kind", "kind"), ("source/id", "from_id"), ("source", "from_id")):
            self._moved[f"{at}/{new}"] = f"{was}/{old}"
        self._moved[f"{at}/to"] = was

    # ---------------------------------------------------------------- what names them

    def _renamed(self, made: Json) -> Json:
        """Rules, acts, incidents and answers name leads by their ids."""
        strategy = made.get("strategy")
        if isinstance(strategy, dict) and isinstance(strategy.get("rules"), list):
            rules = [self._rule(index, rule) for index, rule in enumerate(strategy["rules"])]
            made["strategy"] = {**strategy, "rules": rules}
        outage = made.get("outage")
        if isinstance(outage, dict):
            sky = _with_sky(outage.get("weather", {}))
            made["outage"] = {**outage, **sky, **self._incidents(outage), **self._acts(outage)}
        answers = made.get("check_answers")
        if isinstance(answers, dict):
            made["check_answers"] = {self._answer(key): value for key, value in answers.items()}
        return made

    def _rule(self, index: int, rule: Any) -> Any:
        if not isinstance(rule, dict) or "recharge_id" not in rule:
            return rule
        self._moved[f"/strategy/rules/{index}/lead_id"] = f"/strategy/rules/{index}/recharge_id"
        named = rule["recharge_id"]
        rest = {name: value for name, value in rule.items() if name != "recharge_id"}
        return {**rest, "lead_id": self._recharge(named)}

    def _recharge(self, named: Any) -> Any:
        return self._lead_of_recharge.get(named, named) if isinstance(named, str) else named

    def _incidents(self, outage: Json) -> Json:
        incidents = outage.get("incidents")
        if not isinstance(incidents, dict):
            return {}
        made = {}
        for key, item in incidents.items():
            if isinstance(item, dict) and "feed_id" in item:
                at = f"/outage/incidents/{key}"
                self._moved[f"{at}/lead_id"] = f"{at}/feed_id"
                rest = {name: value for name, value in item.items() if name != "feed_id"}
                made[key] = {**rest, "lead_id": item["feed_id"]}
            else:
                made[key] = item
        return {"incidents": made}

    def _acts(self, outage: Json) -> Json:
        acts = outage.get("acts")
        if not isinstance(acts, dict):
            return {}
        made = dict(acts)
        for key, act in acts.items():
            if isinstance(act, dict) and act.get("room") == "recharges":
                made[key] = {**act, "room": "leads", "part_id": self._recharge(act.get("part_id"))}
        return {"acts": made}

    def _answer(self, key: str) -> str:
        check_id, at, element = key.partition("@")
        room, _, part = element.partition("/")
        if room == "recharges":
            return f"{check_id}{at}leads/{self._recharge(part)}"
        if room != "feeds":
            return key
        feed = self._feed_of.get(part)
        of_feed = check_id in OF_FEEDS and feed is not None
        return f"{check_id}{at}feeds/{feed}" if of_feed else f"{check_id}{at}leads/{part}"


def _with_idle(station: Any) -> Any:
    """A station that said nothing of its idle draw, with what version 1 took."""
    return {"idle_w": 40.0, **station} if isinstance(station, dict) else station


def _with_sky(weather: Any) -> Json:
    """Weather that said nothing of the sky, with what version 1 took."""
    return {"weather": {"sky": ["clear"], **weather}} if isinstance(weather, dict) else {}


def _with_share(battery: Any) -> Any:
    """An external battery that said nothing of its losses, with what version 1 took."""
    return {"transfer_efficiency": 0.89, **battery} if isinstance(battery, dict) else battery


def _picked(part: Mapping[str, Any], names: Iterable[str]) -> Json:
    return {name: part[name] for name in names if name in part}


def _agreed(one: Any, other: Json) -> Json:
    """Answers that two feeds give about one inlet: what only one says, or both; otherwise the worse."""
    if not isinstance(one, dict):
        return other
    worst = ("no", "unknown", "yes")
    agreed = dict(one)
    for question, value in other.items():
        held = agreed.get(question, value)
        known = held in worst and value in worst
        agreed[question] = min(held, value, key=worst.index) if known else value
    return agreed
