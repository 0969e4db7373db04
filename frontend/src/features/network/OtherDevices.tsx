import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { moment } from "../../ui/format";
import { Machine } from "./Machine";
import { PairingCode } from "./PairingCode";

type Network = components["schemas"]["NetworkView"];

/** Phones and machines on the house's network: switched on here, paired, listed, revoked. */
export function OtherDevices() {
  return (
    <Dialog.Root>
      <Dialog.Trigger className="act self-start">Other devices …</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/40" />
        <Dialog.Content className="fixed top-[6vh] left-1/2 z-50 max-h-[88vh] w-[min(94vw,680px)] -translate-x-1/2 overflow-auto border border-ink bg-paper p-5">
          <Dialog.Title className="text-lg font-semibold">Other devices</Dialog.Title>
          <Dialog.Description className="text-faint">
            A phone at the panel or in the cellar can use this plan over the house’s network, while this
            computer serves it. It is off until you switch it on, and off again once the server is stopped.
          </Dialog.Description>
          <Inside />
          <Dialog.Close className="act mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Inside() {
  const queries = useQueryClient();
  const found = useQuery({
    queryKey: ["network"],
    refetchInterval: 3_000,
    retry: false,
    queryFn: () => answer(client.GET("/api/network")),
  });
  const change = useMutation({
    mutationFn: (on: boolean) => answer(client.PUT("/api/network", { body: { on } })),
    onSuccess: (now) => queries.setQueryData(["network"], now),
  });
  const network = found.data;
  return (
    <>
      <CannotShow asked={found} what="list of devices" />
      {network && !network.can && <p>This server cannot be opened to a network.</p>}
      {network?.can && (
        <p className="mt-2">
          <strong data-testid="network">
            {network.on ? "Open to the network" : "Only on this computer"}.
          </strong>{" "}
          <button
            type="button"
            className="act font-semibold"
            disabled={change.isPending}
            onClick={() => change.mutate(!network.on)}
          >
            {network.on ? "Close it" : "Open it to the house’s network"}
          </button>
        </p>
      )}
      {change.error && (
        <p role="alert" className="border-l-4 border-stop pl-3">
          {change.error.message}
        </p>
      )}
      {network?.on && <HowSafe network={network} />}
      {network?.on && <PairingCode />}
      {network && <Devices network={network} />}
      {network?.on && <Machine />}
    </>
  );
}

function HowSafe({ network }: { network: Network }) {
  return network.encrypted ? (
    <p className="mt-1">
      What goes over the network is encrypted.{" "}
      {network.own_certificate &&
        "Its certificate was made here, so the phone’s browser will say that it does not know it: go on only where it shows this fingerprint. "}
      <span className="break-all tabular-nums" data-testid="fingerprint">
        {network.fingerprint}
      </span>
    </p>
  ) : (
    <p className="mt-1 border-l-4 border-caution pl-3">
      What goes over the network is not encrypted: anyone on it can read along, the phone’s token too. Start
      the server with <code>--tls</code> to encrypt it. A phone keeps no copy of the screens over a plain
      connection: what must work without this computer is the pocket file.
    </p>
  );
}

function Devices({ network }: { network: Network }) {
  const queries = useQueryClient();
  const revoke = useMutation({
    mutationFn: (id: string) =>
      answer(client.DELETE("/api/network/devices/{device_id}", { params: { path: { device_id: id } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ["network"] }),
  });
  const ROLES = { full: "reads and writes", guest: "reads only", machine: "sends readings to one log" };
  return (
    <section aria-label="Paired devices" className="mt-3">
      <h3 className="font-semibold">Paired devices</h3>
      {network.devices.length === 0 && <p className="text-faint">None is paired.</p>}
      <ul>
        {network.devices.map((device) => (
          <li key={device.id} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1">
            <strong>{device.name}</strong>
            <span className="text-faint">
              {ROLES[device.role]},{" "}
              {device.last_used_at
                ? `last used ${moment(device.last_used_at, Intl.DateTimeFormat().resolvedOptions().timeZone)}`
                : "never used"}
            </span>
            <button type="button" className="act ml-auto" onClick={() => revoke.mutate(device.id)}>
              Let {device.name} in no more
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
