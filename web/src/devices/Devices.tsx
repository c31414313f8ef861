import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import { api, keys, unwrap } from "../api/client";
import { able, keepAnswers, keeping, keeps } from "../away/away";
import { Part } from "../sheet/Sheet";
import { Button } from "../ui/Button";
import { Pick } from "../ui/Pick";
import { Radios } from "../ui/Radios";
import { Switch } from "../ui/Switch";
import { TypedIn } from "../ui/TypedIn";
import { day } from "../units";

type Role = "maker" | "household" | "guest";

const roles: { value: Role; name: string; may: string }[] = [
  { value: "maker", name: "maker", may: "sees and changes everything" },
  { value: "household", name: "household", may: "finds things, takes them and puts them back" },
  { value: "guest", name: "guest", may: "looks, and changes nothing" },
];

/** Devices are the phones and other machines of the household: which are let in, what each may do, and how one is let in. */
export default function Devices() {
  const client = useQueryClient();
  const state = useQuery({
    queryKey: keys.devices,
    queryFn: async () => unwrap(await api.GET("/api/v1/devices")),
    refetchInterval: 5000,
  });
  const again = () => void client.invalidateQueries({ queryKey: keys.devices });
  const change = useMutation({
    mutationFn: async (v: { id: number; name?: string; role?: Role }) => {
      const { error } = await api.PATCH("/api/v1/devices/{id}", {
        params: { path: { id: v.id } },
        body: { name: v.name, role: v.role },
      });
      if (error) unwrap({ error });
    },
    onSettled: again,
  });
  const out = useMutation({
    mutationFn: async (d: { id: number; name: string }) => {
      const { error } = await api.DELETE("/api/v1/devices/{id}", { params: { path: { id: d.id } } });
      if (error) unwrap({ error });
      return d.name;
    },
    onSuccess: (name) => toast(`${name} is let in no more.`),
    onSettled: again,
  });
  if (state.isError) return <p className="p-4 text-red">{state.error.message}</p>;
  const data = state.data;
  if (!data) return <p className="p-4 text-quiet">Looking …</p>;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto p-4">
      <div className="mx-auto grid max-w-[1120px] gap-x-8 gap-y-2 lg:grid-cols-[minmax(0,1fr)_minmax(0,26rem)]">
        <div>
          {data.shared ? (
            <Pairing addresses={data.addresses} known={data.devices.length} />
          ) : (
            <Part title="Phones and other devices">
              <p className="m-0 max-w-[60ch]">
                This shop answers this machine alone. To find things with a phone in the shop, stop Hobrak and start it again with
              </p>
              <p className="my-2">
                <code className="border border-line bg-sheet px-2 py-1">hobrak serve --share</code>
              </p>
              <p className="m-0 max-w-[60ch] text-quiet">
                It asks for a pass phrase, encrypts what is sent, and says under which address the shop is reached. Each phone is then let
                in here, with what it may do.
              </p>
            </Part>
          )}
          {data.shared && (
            <Part title="Let in">
              {data.devices.length === 0 && <p className="m-0 text-quiet">None yet.</p>}
              <ul className="m-0 list-none p-0" data-testid="devices">
                {data.devices.map((d) => (
                  <li key={d.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line/60 py-1.5">
                    <span className="min-w-40 flex-1">
                      <TypedIn
                        key={d.name}
                        value={d.name}
                        onDone={(name) => name.trim() !== "" && change.mutate({ id: d.id, name: name.trim() })}
                        onTyped={() => undefined}
                        className="border-b border-transparent py-0.5 font-semibold hover:border-line"
                      />
                      <span className="block px-1 text-small text-quiet">
                        {d.id === data.this ? "this device, " : ""}let in on {day(d.made.slice(0, 10))}, last asked {when(d.seen)}
                      </span>
                    </span>
                    <Pick
                      label={`What ${d.name} may do`}
                      value={d.role}
                      choices={roles.map((r) => ({ value: r.value, name: r.name }))}
                      onPick={(role) => change.mutate({ id: d.id, role: role as Role })}
                    />
                    <Button onClick={() => out.mutate(d)} disabled={out.isPending}>
                      Show out
                    </Button>
                  </li>
                ))}
              </ul>
              <ul className="mt-2 mb-0 list-none p-0 text-small text-quiet">
                {roles.map((r) => (
                  <li key={r.value}>
                    <b className="font-semibold">{r.name}</b>: {r.may}
                  </li>
                ))}
              </ul>
            </Part>
          )}
        </div>
        <div>
          {data.fingerprint !== "" && <Trust fingerprint={data.fingerprint} addresses={data.addresses} />}
          <ThisDevice here={data.this === 0} />
        </div>
      </div>
    </div>
  );
}

/** when something was, by the day or the hour. */
function when(at: string): string {
  const d = new Date(at);
  return d.toDateString() === new Date().toDateString()
    ? `today at ${d.toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })}`
    : `on ${day(at.slice(0, 10))}`;
}

function Pairing({ addresses, known }: { addresses: readonly string[]; known: number }) {
  const [name, setName] = useState("");
  const [role, setRole] = useState<Role>("household");
  const [address, setAddress] = useState(addresses[0] ?? "");
  const [began, setBegan] = useState(0);
  const [now, setNow] = useState(() => Date.now());
  const make = useMutation({
    mutationFn: async () => {
      setBegan(known);
      return unwrap(await api.POST("/api/v1/devices/pairing", { body: { name: name.trim(), role, address } }));
    },
  });
  const code = make.data;
  const left = code ? Math.max(0, Math.round((new Date(code.until).getTime() - now) / 1000)) : 0;
  const waiting = code !== undefined && left > 0;
  useEffect(() => {
    if (!code) return;
    setNow(Date.now());
    const tick = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(tick);
  }, [code]);
  useEffect(() => {
    if (waiting && known > began) {
      make.reset();
      setName("");
      toast("It is in.");
    }
  }, [waiting, known, began, make]);
  return (
    <Part title="Let a phone in">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
        <label className="block">
          <span className="block text-small text-quiet">its name</span>
          <input
            value={name}
            maxLength={60}
            placeholder="as phone in the shop"
            onChange={(e) => setName(e.target.value)}
            className="w-56 border border-line bg-sheet px-2 py-1.5 placeholder:text-quiet"
          />
        </label>
        <span>
          <span className="block text-small text-quiet">it may act as</span>
          <Radios label="What it may do" value={role} choices={roles} onPick={setRole} />
        </span>
        {addresses.length > 1 && (
          <span>
            <span className="block text-small text-quiet">it reaches the shop at</span>
            <Pick
              label="Address"
              value={address}
              choices={addresses.map((a) => ({ value: a, name: a.replace(/^https?:\/\//, "") }))}
              onPick={setAddress}
            />
          </span>
        )}
        <Button kind="main" onClick={() => make.mutate()} disabled={make.isPending}>
          {waiting ? "Another code" : "Make a code"}
        </Button>
      </div>
      {code && waiting && (
        <div className="mt-3 flex flex-wrap items-start gap-4" data-testid="pairing">
          <img
            src={`data:image/svg+xml,${encodeURIComponent(code.qr)}`}
            alt="Code to be scanned with the phone"
            className="h-52 w-52 border border-ink bg-white"
          />
          <div className="max-w-[38ch]">
            <p className="m-0">
              Scan it with the phone's camera and press <b>Come in</b> there. It is good for{" "}
              <b className="tabular-nums">
                {Math.floor(left / 60)}:{String(left % 60).padStart(2, "0")}
              </b>{" "}
              and for one device.
            </p>
            <p className="mt-2 mb-0 text-small break-all text-quiet">Or open there: {code.url}</p>
          </div>
        </div>
      )}
      {code && !waiting && <p className="mt-2 mb-0 text-quiet">That code is too old by now; make another.</p>}
    </Part>
  );
}

/** Trust is how a phone is told to trust the certificate of the shop: without it there is a warning, no camera and no installing. */
function Trust({ fingerprint, addresses }: { fingerprint: string; addresses: readonly string[] }) {
  return (
    <Part title="So that a phone trusts this shop">
      <p className="m-0 text-small text-quiet">
        What is sent is encrypted either way. But until a phone knows this shop's certificate it warns, gives the page no camera, and does
        not install it. Once on each phone:
      </p>
      <ol className="mt-2 mb-0 list-decimal space-y-1 pl-5">
        <li>
          On the phone, open{" "}
          <span className="break-all">
            <b>{addresses[0] ? `${addresses[0]}/trust.crt` : "/trust.crt"}</b>
          </span>
          . It warns that it does not know the shop yet: go on all the same, this once.
        </li>
        <li>
          The phone saves <b>hobrak-trust.crt</b>, or says that a profile was loaded. Open it. On most phones that is in Settings: search
          there for <b>install a certificate</b> and choose <b>CA certificate</b>, or open the <b>profile</b> that waits under General.
        </li>
        <li>
          Before you agree, compare the SHA-256 fingerprint it shows with this one:
          <code className="mt-1 block border border-line bg-sheet p-2 text-small break-all">{fingerprint}</code>
        </li>
        <li>
          Some phones ask for one thing more: under <b>About</b>, <b>Certificate trust</b>, switch full trust on for “Hobrak, this shop”.
        </li>
        <li>Close the page and open the shop again. The warning is gone; now the camera and installing work.</li>
      </ol>
      <p className="mt-2 mb-0 text-small text-quiet">
        It can speak for this machine and addresses inside a home network alone, for no site elsewhere. Where you would rather not: what you
        press is kept in the page and sent later all the same, and codes are read from a photograph.
      </p>
    </Part>
  );
}

function ThisDevice({ here }: { here: boolean }) {
  keeping.use();
  return (
    <Part title="On this device">
      {able ? (
        <>
          <Switch
            on={keeps()}
            onChange={(on) => {
              keeping.set(on ? "on" : "off");
              void keepAnswers().catch(() => toast.error("This browser does not keep anything."));
            }}
          >
            Keep the last answers for when the shop's machine is out of reach
          </Switch>
          <p className="mt-1 mb-0 text-small text-quiet">
            Things can then be found as they were, taken and put back: what you press waits here and is sent once, when the machine answers
            again. Signing out forgets it all.
          </p>
          {!here && (
            <p className="mt-2 mb-0">
              To have it among the phone's other apps: in the browser's menu, <b>Add to home screen</b> or <b>Install</b>.
            </p>
          )}
        </>
      ) : (
        <p className="m-0 text-quiet">
          This browser keeps nothing for an address it does not trust. What you press while the machine is out of reach waits in the open
          page.
        </p>
      )}
      {!here && (
        <form method="post" action="/leave" className="mt-2">
          <Button type="submit">Sign out of this browser</Button>
        </form>
      )}
    </Part>
  );
}
