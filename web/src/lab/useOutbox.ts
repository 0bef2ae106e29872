import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Problem, Schemas } from "../api/client";
import {
  type Pending,
  type Safety,
  type Whose,
  askToKeep,
  drop,
  howSafe,
  isOf,
  letGo,
  pending,
  put,
  send,
} from "../api/outbox";
import { fetchAnew } from "../api/queries";

const AGAIN_MS = 3000;

/** Send what waits at once, again and again, and as soon as the network is back. */
export function useSendAgain(send: () => Promise<void>, everyMs: number, active = true) {
  useEffect(() => {
    if (!active) return;
    const first = setTimeout(() => void send(), 0);
    const timer = setInterval(() => void send(), everyMs);
    window.addEventListener("online", send);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
      window.removeEventListener("online", send);
    };
  }, [send, everyMs, active]);
}

type WithoutRefusal<T> = T extends unknown ? Omit<T, "refusal"> : never;
/** What can be added: an entry whose id was made here. */
export type Fresh = WithoutRefusal<Pending>;

const NONE: Schemas["BenchOut"]["cells"] = [];
const NOTHING: string[] = [];

/**
 * What tells one thing that is begun, said or handed in from another; null for what may be entered again at once with the
 * same words, as a reading: its field is empty after the first press.
 */
function sameIs(entry: Fresh): string | null {
  const again = entry.kind === "packEntry" && (entry.body.kind.startsWith("run") || entry.body.kind === "event");
  if (again || !["pack", "packEntry", "chain", "handIn", "check", "prediction"].includes(entry.kind)) return null;
  return JSON.stringify([
    entry.kind,
    entry.cell_id === entry.id ? "" : entry.cell_id,
    { ...entry.body, id: "", device_at: "" },
  ]);
}

/** Entries waiting on this device, and how to add one: first here, then to the server, in order, until it has them and the page
 * shows them from there (`shown`: ids that it shows besides readings). */
export function useOutbox(joined: Schemas["BenchOut"] | undefined, shown: string[] = NOTHING) {
  const bench = joined?.cells ?? NONE;
  const group = joined?.group_id ?? "";
  const name = joined?.group ?? "";
  const [waiting, setWaiting] = useState<Pending[]>([]);
  const [lookedFor, setLookedFor] = useState<Whose | null>(null);
  const [trouble, setTrouble] = useState<Problem | null>(null);
  const [safety, setSafety] = useState<Safety>("kept");
  const client = useQueryClient();
  const cellKey = bench.map((cell) => cell.id).join();
  const shownKey = shown.join(); // by what it holds: a page may make the list anew each time it is drawn
  const seen = useMemo(
    () => new Set([...bench.flatMap((cell) => cell.readings.map((reading) => reading.id)), ...shownKey.split(",")]),
    [bench, shownKey],
  );
  const own = useMemo<Whose>(() => ({ group, cells: new Set(cellKey ? cellKey.split(",") : []) }), [group, cellKey]);

  const refresh = useCallback(async () => {
    const all = await pending();
    const mine = all.filter((one) => isOf(one, own));
    setWaiting((before) => (before.length + mine.length > 0 ? mine : before)); // nothing as before: nothing is drawn anew
    setLookedFor(own);
    setSafety(howSafe());
  }, [own]);

  const flush = useCallback(async () => {
    const outcome = await send(own);
    if (outcome.sent > 0) await fetchAnew(client, { queryKey: ["bench"] });
    setTrouble(outcome.waiting);
    await refresh();
  }, [own, client, refresh]);

  useEffect(() => {
    if (own.group) askToKeep();
  }, [own]);
  useSendAgain(flush, AGAIN_MS, Boolean(own.group));

  useEffect(() => {
    void letGo(seen).then(refresh);
  }, [seen, refresh]);

  const keep = useCallback(
    async (entry: Fresh): Promise<string | null> => {
      setLookedFor(null); // what was just typed is not among what was looked for
      await put({ ...entry, group_id: group, group: name, refusal: null } as Pending);
      await refresh();
      await flush();
      return (await pending()).find((one) => one.id === entry.id)?.refusal ?? null;
    },
    [flush, refresh, group, name],
  );

  /** Keep an entry and try to send it; returns what the server said if it would not keep it. A second press while the first
   * is being kept does nothing, and nothing follows it. */
  const underWay = useRef(new Set<string>());
  const add = useCallback(
    async (entry: Fresh): Promise<string | null> => {
      const what = sameIs(entry);
      if (what === null) return keep(entry);
      if (underWay.current.has(what)) return new Promise(() => undefined);
      underWay.current.add(what);
      try {
        return await keep(entry);
      } finally {
        underWay.current.delete(what);
      }
    },
    [keep],
  );

  const remove = useCallback(
    async (id: string) => {
      await drop(id);
      await flush();
    },
    [flush],
  );

  return { group, waiting, looked: lookedFor === own, trouble, safety, add, remove, anyCell: bench[0]?.id ?? "" };
}

export type Outbox = ReturnType<typeof useOutbox>;
