import { Settings2 } from "lucide-react";
import { Popover } from "radix-ui";
import { useDesk } from "../api/plan";
import { OtherDevices } from "../features/network/OtherDevices";
import { ChoiceField } from "../ui/ChoiceField";
import type { Units } from "../ui/quantity";
import { usePalette } from "./palette";
import { Voltage } from "./Voltage";

const PALETTES = [
  ["system", "as the system"],
  ["day", "day"],
  ["night", "night"],
] as const;
const TEMPERATURE = [
  ["f", "°F"],
  ["c", "°C"],
] as const;
const LENGTH = [
  ["ft", "feet"],
  ["m", "metres"],
] as const;
const VOLUME = [
  ["gal", "gallons"],
  ["l", "litres"],
] as const;
const WIRE = [
  ["awg", "AWG"],
  ["mm2", "mm²"],
] as const;
const CLOCK = [
  ["24", "24 hours"],
  ["12", "12 hours, am and pm"],
] as const;

/** Palette of this screen; needs no plan. */
export function PaletteChoice() {
  const [palette, setPalette] = usePalette();
  return <ChoiceField label="Palette" value={palette} choices={PALETTES} onSave={setPalette} />;
}

/** Palette of this screen, units of this plan. */
export function Settings() {
  const { view, edit } = useDesk();
  const units = view.plan.site.units;
  const change = (part: Partial<Units>) =>
    edit((plan) => ({ ...plan, site: { ...plan.site, units: { ...units, ...part } } }));
  return (
    <Popover.Root>
      <Popover.Trigger className="act inline-flex items-center" aria-label="Units and palette">
        <Settings2 size={16} aria-hidden />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="Units and palette"
          className="z-30 flex max-h-[var(--radix-popover-content-available-height)] flex-col gap-1 overflow-auto border border-ink bg-paper p-3"
        >
          <PaletteChoice />
          <p className="mt-1 max-w-[420px] text-faint">
            Units are only how figures are shown and typed: nothing that was put in changes with them.
          </p>
          <ChoiceField
            label="Temperature in"
            value={units.temperature}
            choices={TEMPERATURE}
            onSave={(temperature) => change({ temperature })}
          />
          <ChoiceField
            label="Length in"
            value={units.length}
            choices={LENGTH}
            onSave={(length) => change({ length })}
          />
          <ChoiceField
            label="Volume in"
            value={units.volume}
            choices={VOLUME}
            onSave={(volume) => change({ volume })}
          />
          <ChoiceField
            label="Wire in"
            value={units.wire}
            choices={WIRE}
            onSave={(wire) => change({ wire })}
          />
          <ChoiceField
            label="Clock of"
            value={units.clock}
            choices={CLOCK}
            onSave={(clock) => change({ clock })}
          />
          <Voltage />
          <OtherDevices />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
