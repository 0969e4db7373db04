import { useDesk } from "../../api/plan";
import { ChoiceField } from "../../ui/ChoiceField";
import { ClockField } from "../../ui/ClockField";
import { HoursField } from "../../ui/HoursField";
import { NumberField } from "../../ui/NumberField";
import { type Choices, type Rule, type RuleOf, ruleChoices } from "./rules";

type Put<Kind extends Rule["kind"]> = { rule: RuleOf<Kind>; set: (part: Partial<RuleOf<Kind>>) => void };

const PURPOSES = [
  ["both", "the house and charging"],
  ["charging", "charging only"],
  ["house", "the house only"],
] as const;

const RECHARGE_WORDS = {
  sun: "sun",
  engine: "an engine",
  vehicle: "a vehicle",
  wall: "the wall",
  station: "another station",
  battery: "an external battery",
} as const;

/** What becomes of an engine that only a hand stops, once nobody is there. */
const LEFT_RUNNING = [
  ["stops", "it is stopped before"],
  ["runs", "it is left running"],
] as const;

/** One line of the strategy as a sentence whose words and figures can be changed. */
export function RuleSentence({ rule, set }: { rule: Rule; set: (part: Partial<Rule>) => void }) {
  const { view } = useDesk();
  const of = ruleChoices(view.plan);
  switch (rule.kind) {
    case "engine":
      return <EngineSentence rule={rule} set={set} engines={of.engines} />;
    case "plug":
      return (
        <>
          <Part label="plug in" value={rule.lead_id} of={of.links} onSave={(lead_id) => set({ lead_id })} />
          <Share label="below" value={rule.in_below_percent} onSave={(v) => set({ in_below_percent: v })} />
          <Share
            label="out above"
            value={rule.out_above_percent}
            onSave={(v) => set({ out_above_percent: v })}
          />
        </>
      );
    case "swap":
      return (
        <>
          <Part
            label="put in its place"
            value={rule.lead_id}
            of={of.swaps}
            onSave={(lead_id) => set({ lead_id })}
          />
          <Share
            label="when what feeds is below"
            value={rule.below_percent}
            onSave={(v) => set({ below_percent: v })}
          />
          <Share
            label="back above"
            value={rule.back_above_percent}
            onSave={(v) => set({ back_above_percent: v })}
          />
        </>
      );
    case "utility":
      return (
        <>
          <Share
            label="while the utility is back: on it only below"
            value={rule.back_below_percent}
            onSave={(v) => set({ back_below_percent: v })}
          />
          <Share
            label="away again above"
            value={rule.away_above_percent}
            onSave={(v) => set({ away_above_percent: v })}
          />
        </>
      );
    case "surplus":
      return (
        <>
          <Several words="on sun that is left over:" rule={rule} set={set} of={of.loads} />
          <Share
            label="from a charge of"
            value={rule.above_percent}
            onSave={(v) => set({ above_percent: v })}
          />
        </>
      );
    case "while":
      return <WhileSentence rule={rule} set={set} engines={of.engines} loads={of.loads} />;
    case "together":
      return <Several words="never together:" rule={rule} set={set} of={of.loads} least={2} />;
    case "hand_cycle":
      return (
        <>
          <Several words="switch on by hand:" rule={rule} set={set} of={of.loads} />
          <Minutes label="for" seconds={rule.on_s} onSave={(on_s) => set({ on_s })} />
          <NumberField
            label="of every"
            value={rule.every_s / 3600}
            unit="h"
            width="w-12"
            onSave={(hours) => set({ every_s: hours * 3600 })}
          />
        </>
      );
    case "reserve":
      return (
        <>
          <SeveralCircuits words="leave off for the night:" rule={rule} set={set} of={of.circuits} />
          <Share label="with less than" value={rule.percent} onSave={(percent) => set({ percent })} />
          <Clock label="left at" value={rule.bedtime} onSave={(bedtime) => set({ bedtime })} />
          <Clock label="until" value={rule.until} onSave={(until) => set({ until })} />
        </>
      );
    case "order":
      return <OrderSentence rule={rule} set={set} />;
    case "start":
      return (
        <>
          <Part label="begin" value={rule.load_id} of={of.jobs} onSave={(load_id) => set({ load_id })} />
          <Clock label="at" value={rule.at} onSave={(at) => set({ at })} />
        </>
      );
    case "turn":
      return (
        <>
          <Part label="turn" value={rule.array_id} of={of.arrays} onSave={(array_id) => set({ array_id })} />
          <Clock label="at" value={rule.at} onSave={(at) => set({ at })} />
          <Angle label="tilt" value={rule.tilt_deg} onSave={(tilt_deg) => set({ tilt_deg })} />
          <Angle label="from north" value={rule.azimuth_deg} onSave={(azimuth_deg) => set({ azimuth_deg })} />
        </>
      );
    default:
      return (
        <>
          <SeveralCircuits words="switch off" rule={rule} set={set} of={of.circuits} />
          <Share label="below" value={rule.off_below_percent} onSave={(v) => set({ off_below_percent: v })} />
          <Share
            label="back above"
            value={rule.back_above_percent}
            onSave={(v) => set({ back_above_percent: v })}
          />
        </>
      );
  }
}

const STARTS = [
  ["charge", "a charge is low"],
  ["clock", "the clock says"],
] as const;

function EngineSentence({ rule, set, engines }: Put<"engine"> & { engines: Choices }) {
  return (
    <>
      <Part
        label="start"
        value={rule.generator_id}
        of={engines}
        onSave={(generator_id) => set({ generator_id })}
      />
      <ChoiceField
        label="when"
        value={rule.on_below_percent == null ? "clock" : "charge"}
        choices={STARTS}
        onSave={(by) => set({ on_below_percent: by === "clock" ? null : 30 })}
      />
      {rule.on_below_percent != null && (
        <>
          <Share label="below" value={rule.on_below_percent} onSave={(v) => set({ on_below_percent: v })} />
          <Share
            label="stop above"
            value={rule.off_above_percent}
            onSave={(v) => set({ off_above_percent: v })}
          />
        </>
      )}
      <Minutes label="run at least" seconds={rule.least_s} onSave={(least_s) => set({ least_s })} />
      <ChoiceField
        label="for"
        value={rule.purpose}
        choices={PURPOSES}
        onSave={(purpose) => set({ purpose })}
      />
      <HoursField hours={rule.hours ?? null} onSave={(hours) => set({ hours })} />
      <ChoiceField
        label="with nobody awake there"
        value={rule.left_running ? "runs" : "stops"}
        choices={LEFT_RUNNING}
        onSave={(left) => set({ left_running: left === "runs" })}
      />
    </>
  );
}

function WhileSentence({ rule, set, engines, loads }: Put<"while"> & { engines: Choices; loads: Choices }) {
  return (
    <>
      <Several words="let run:" rule={rule} set={set} of={loads} />
      <Part
        label="only while"
        value={rule.generator_id ?? ""}
        of={[...(rule.sun_above_w == null ? [] : [["", "no engine"] as const]), ...engines]}
        onSave={(engine) => set({ generator_id: engine || null })}
      />
      <NumberField
        label="runs, or the sun gives more than"
        value={rule.sun_above_w ?? null}
        unit="W"
        width="w-16"
        onSave={(sun_above_w) => set({ sun_above_w })}
        onEmpty={rule.generator_id == null ? undefined : () => set({ sun_above_w: null })}
      />
    </>
  );
}

type Source = keyof typeof RECHARGE_WORDS;

function OrderSentence({ rule, set }: Put<"order">) {
  const free = (Object.keys(RECHARGE_WORDS) as Source[]).filter((key) => !rule.sources.includes(key));
  const first = (key: Source) => set({ sources: [key, ...rule.sources.filter((item) => item !== key)] });
  return (
    <>
      <span>
        <span className="text-faint">recharge from</span>{" "}
        {rule.sources.map((key) => RECHARGE_WORDS[key]).join(", then ")}
      </span>
      <ChoiceField
        label="put first"
        value=""
        choices={[
          ["", "choose"],
          ...[...free, ...rule.sources.slice(1)].map((key) => [key, RECHARGE_WORDS[key]] as const),
        ]}
        onSave={(key) => key && first(key as Source)}
      />
    </>
  );
}

interface SeveralProps {
  words: string;
  rule: { load_ids: string[] };
  set: (part: { load_ids: string[] }) => void;
  of: Choices;
  least?: number;
}

/** Loads that a rule speaks about, by name; one more and one less. */
function Several({ words, rule, set, of, least = 1 }: SeveralProps) {
  const ids = rule.load_ids;
  return <Named words={words} ids={ids} of={of} least={least} onSave={(load_ids) => set({ load_ids })} />;
}

interface CircuitsProps {
  words: string;
  rule: { circuit_ids: string[] };
  set: (part: { circuit_ids: string[] }) => void;
  of: Choices;
}

function SeveralCircuits({ words, rule, set, of }: CircuitsProps) {
  const ids = rule.circuit_ids;
  return <Named words={words} ids={ids} of={of} least={1} onSave={(circuit_ids) => set({ circuit_ids })} />;
}

interface NamedProps {
  words: string;
  ids: readonly string[];
  of: Choices;
  least: number;
  onSave: (ids: string[]) => void;
}

function Named({ words, ids, of, least, onSave }: NamedProps) {
  const free = of.filter(([id]) => !ids.includes(id));
  return (
    <>
      <span>
        <span className="text-faint">{words}</span>{" "}
        {ids.map((id) => of.find(([key]) => key === id)?.[1] ?? id).join(", ")}
      </span>
      {free.length > 0 && (
        <ChoiceField
          label="and"
          value=""
          choices={[["", "one more"], ...free]}
          onSave={(id) => id && onSave([...ids, id])}
        />
      )}
      {ids.length > least && (
        <button type="button" className="act" onClick={() => onSave(ids.slice(0, -1))}>
          One less
        </button>
      )}
    </>
  );
}

interface FieldProps<T> {
  label: string;
  value: T;
  onSave: (value: T) => void;
}

function Part({ label, value, of, onSave }: FieldProps<string> & { of: Choices }) {
  return <ChoiceField label={label} value={value} choices={of} onSave={onSave} />;
}

function Share({ label, value, onSave }: FieldProps<number>) {
  return <NumberField label={label} value={value} unit="%" width="w-12" onSave={onSave} />;
}

function Angle({ label, value, onSave }: FieldProps<number>) {
  return <NumberField label={label} value={value} unit="°" width="w-12" onSave={onSave} />;
}

function Minutes({
  label,
  seconds,
  onSave,
}: {
  label: string;
  seconds: number;
  onSave: (seconds: number) => void;
}) {
  const save = (minutes: number) => onSave(minutes * 60);
  return <NumberField label={label} value={seconds / 60} unit="min" width="w-12" onSave={save} />;
}

function Clock({ label, value, onSave }: FieldProps<string>) {
  return <ClockField label={label} value={value} onSave={onSave} />;
}
