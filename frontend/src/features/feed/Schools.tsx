import { useGear } from "../../api/library";
import { useDesk } from "../../api/plan";
import { Fields } from "../../ui/Fields";
import { CLOSING, type Feed, LIGHT_FIRST } from "./feedFields";

/** How a feed is closed by hand: practitioners differ, the sheets follow what is chosen here. */
export function Schools({ feedId }: { feedId: string }) {
  const { view, edit } = useDesk();
  const gear = useGear();
  const feed = view.plan.feeds?.[feedId];
  if (!feed || feed.kind === "appliance_switch") return null;
  const set = (part: Partial<Feed>) =>
    edit((now) => {
      const old = now.feeds?.[feedId];
      return old ? { ...now, feeds: { ...now.feeds, [feedId]: { ...old, ...part } } } : now;
    });
  return (
    <>
      {!gear.wired_kinds.includes(feed.kind) && <Fields value={feed} fields={CLOSING} set={set} />}
      <Fields value={feed} fields={LIGHT_FIRST} set={set} />
      <p className="text-faint">
        Practitioners differ. The sheets follow this as far as the source carries what comes on at once, and
        say where it does not.
      </p>
    </>
  );
}
