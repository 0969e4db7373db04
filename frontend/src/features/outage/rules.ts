import type { GearLibrary, Plan } from "../../api/client";
import { leadWords } from "../feed/leads";
import { markOf } from "../load/hangs";

export type Rule = NonNullable<NonNullable<Plan["strategy"]>["rules"]>[number];
export type RuleOf<Kind extends Rule["kind"]> = Extract<Rule, { kind: Kind }>;
export type Choices = readonly (readonly [string, string])[];

function named(parts: Record<string, { name: string }> | undefined): Choices {
  return Object.entries(parts ?? {}).map(([id, part]) => [id, part.name] as const);
}

/** Parts that rules may speak about, by what they are. */
export function ruleChoices(plan: Plan) {
  const leads = Object.entries(plan.leads ?? {}).map(([id, lead]) => ({
    lead,
    choice: [id, leadWords(plan, id)] as const,
  }));
  const loads = Object.entries(plan.loads ?? {}).filter(([id]) => markOf(plan, id) !== "off");
  const choices = (of: typeof loads): Choices => of.map(([id, load]) => [id, load.name] as const);
  return {
    engines: named(plan.generators),
    arrays: named(plan.arrays),
    links: leads
      .filter(({ lead }) => lead.to.end === "input" && lead.source.kind !== "generator")
      .map(({ choice }) => choice),
    swaps: leads
      .filter(({ lead }) => lead.to.end === "feed" && ["station", "link"].includes(lead.source.kind))
      .map(({ choice }) => choice),
    circuits: Object.entries(plan.circuits ?? {})
      .filter(([, circuit]) => circuit.mark !== "off")
      .map(([id, circuit]) => [id, circuit.label] as const),
    loads: choices(loads),
    jobs: choices(loads.filter(([, load]) => load.behaviour.kind === "job")),
  };
}

/** Kinds of rules that this plan has parts for: what each is called, and a new one of it. */
export function newRules(plan: Plan, fresh: GearLibrary["fresh"]): [string, Rule][] {
  const of = ruleChoices(plan);
  const id = (choices: Choices) => choices[0]?.[0] ?? "";
  const offered: [boolean, string, Rule][] = [
    [of.engines.length > 0, "when an engine runs", { ...fresh.engine_rule, generator_id: id(of.engines) }],
    [of.links.length > 0, "when a lead is plugged in", { ...fresh.plug_rule, lead_id: id(of.links) }],
    [of.swaps.length > 1, "when another station takes over", { ...fresh.swap_rule, lead_id: id(of.swaps) }],
    [
      of.circuits.length > 0,
      "what is shed by charge",
      { ...fresh.shed_rule, circuit_ids: [id(of.circuits)] },
    ],
    [
      of.circuits.length > 0,
      "what is left for the night",
      { ...fresh.reserve_rule, circuit_ids: [id(of.circuits)] },
    ],
    [
      of.loads.length > 0 && (of.engines.length > 0 || of.arrays.length > 0),
      "what runs only while an engine or the sun does",
      {
        ...fresh.while_rule,
        load_ids: [id(of.loads)],
        ...(of.arrays.length > 0 ? {} : { generator_id: id(of.engines), sun_above_w: null }),
      },
    ],
    [of.loads.length > 0, "what runs on spare sun", { ...fresh.surplus_rule, load_ids: [id(of.loads)] }],
    [
      of.loads.length > 1,
      "what never runs together",
      { ...fresh.together_rule, load_ids: of.loads.slice(0, 2).map(([key]) => key) },
    ],
    [
      of.loads.length > 0,
      "what is switched on by hand for a while",
      { ...fresh.hand_cycle_rule, load_ids: [id(of.loads)] },
    ],
    [of.jobs.length > 0, "when a job is begun", { ...fresh.start_rule, load_id: id(of.jobs) }],
    [of.arrays.length > 0, "how an array is turned", { ...fresh.turn_rule, array_id: id(of.arrays) }],
    [true, "in what order to recharge", fresh.order_rule],
    [Object.keys(plan.outage.grid ?? {}).length > 0, "when to go back to the utility", fresh.utility_rule],
  ];
  return offered.filter(([may]) => may).map(([, words, rule]) => [words, rule]);
}
