import { useEffect, useState } from "react";
import type { Load } from "../../api/client";
import type { components } from "../../api/schema.gen";
import { ChoiceField } from "../../ui/ChoiceField";
import { NumberField } from "../../ui/NumberField";
import type { Loss } from "./HeaterSheet";

type Fuel = components["schemas"]["FuelLine"];
type Thermostatic = Extract<Load["behaviour"], { kind?: "thermostatic" }>;

const WAYS = [
  ["known", "as in the plan"],
  ["fuel", "from last winter's fuel"],
  ["run", "from how long the heater ran"],
] as const;

interface Props {
  spec: Thermostatic;
  fuels: Fuel[];
  onLoss: (loss: Loss) => void;
}

/** How the heat loss of the house is known: one of three. */
export function LossFields({ spec, fuels, onLoss }: Props) {
  const [way, setWay] = useState<(typeof WAYS)[number][0]>("known");
  const [fuel, setFuel] = useState("natural_gas");
  const [amount, setAmount] = useState(600);
  const [degreeDays, setDegreeDays] = useState(2500);
  const [efficiency, setEfficiency] = useState(85);
  const [fraction, setFraction] = useState(40);
  const [outdoor, setOutdoor] = useState(0);
  const known = spec.loss_w_per_k;
  useEffect(() => {
    if (way === "known") onLoss({ basis: "known", loss_w_per_k: known });
    if (way === "fuel")
      onLoss({ basis: "fuel", fuel, amount, degree_days_k: degreeDays, efficiency: efficiency / 100 });
    if (way === "run") onLoss({ basis: "run", run_fraction: fraction / 100, outdoor_c: outdoor });
  }, [way, known, fuel, amount, degreeDays, efficiency, fraction, outdoor, onLoss]);
  const unit = fuels.find((item) => item.fuel === fuel)?.unit ?? "";
  const litres = unit === "litre";
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 pt-1">
      <ChoiceField label="heat loss of the house" value={way} choices={WAYS} onSave={setWay} />
      {way === "fuel" && (
        <>
          <ChoiceField
            label="fuel"
            value={fuel}
            choices={fuels.map((item) => [item.fuel, item.fuel.replaceAll("_", " ")] as const)}
            onSave={setFuel}
          />
          <NumberField
            label={litres ? "used" : `used (${unit})`}
            value={amount}
            unit={litres ? "L" : ""}
            onSave={setAmount}
          />
          <NumberField label="over degree days" value={degreeDays} unit="°C d" onSave={setDegreeDays} />
          <NumberField label="heater gives" value={efficiency} unit="%" width="w-10" onSave={setEfficiency} />
        </>
      )}
      {way === "run" && (
        <>
          <NumberField label="ran" value={fraction} unit="%" width="w-12" onSave={setFraction} />
          <NumberField label="at" value={outdoor} unit="°C" width="w-12" onSave={setOutdoor} />
          <span className="text-faint">outside</span>
        </>
      )}
    </div>
  );
}
