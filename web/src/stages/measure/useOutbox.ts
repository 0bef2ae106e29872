import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import type { Problem } from "../../api/client";
import {
  type Entry,
  type MeterEntry,
  type Pending,
  type PendingCheck,
  type PendingPrediction,
  type Prediction,
  drop,
  isCheck,
  isPrediction,
  isReading,
  pending,
  put,
  putCheck,
  putPrediction,
  send,
} from "../../api/outbox";

const AGAIN_MS = 3000;

/** A random id; works on plain http in a school's network too, where crypto.randomUUID does not. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

/** Entries waiting on this device, and how to add one: first here, then to the server, in order, until it has them. */
export function useOutbox(cells: string[]) {
  const [waiting, setWaiting] = useState<Pending[]>([]);
  const [predictions, setPredictions] = useState<PendingPrediction[]>([]);
  const [checks, setChecks] = useState<PendingCheck[]>([]);
  const [trouble, setTrouble] = useState<Problem | null>(null);
  const client = useQueryClient();
  const cellKey = cells.join();
  const own = useMemo(() => new Set(cellKey ? cellKey.split(",") : []), [cellKey]);

  const refresh = useCallback(async () => {
    const all = await pending();
    setWaiting(all.filter(isReading).filter((one) => own.has(one.entry.cell_id)));
    setChecks(all.filter(isCheck).filter((one) => own.has(one.cell_id)));
    setPredictions(all.filter(isPrediction).filter((one) => own.has(one.prediction.cell_id)));
  }, [own]);

  const flush = useCallback(async () => {
    const outcome = await send(own);
    if (outcome.sent > 0) await client.invalidateQueries({ queryKey: ["bench"] });
    setTrouble(outcome.waiting);
    await refresh();
  }, [own, client, refresh]);

  useEffect(() => {
    if (own.size === 0) return;
    const first = setTimeout(() => void flush(), 0);
    const timer = setInterval(() => void flush(), AGAIN_MS);
    window.addEventListener("online", flush);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
      window.removeEventListener("online", flush);
    };
  }, [own, flush]);

  const add = useCallback(
    async (entry: Entry) => {
      await put(entry);
      await refresh();
      await flush();
      return (await pending()).filter(isReading).find((one) => one.entry.id === entry.id)?.refusal ?? null;
    },
    [flush, refresh],
  );

  const predict = useCallback(
    async (prediction: Prediction) => {
      await putPrediction(prediction);
      await refresh();
      await flush();
      const kept = (await pending()).filter(isPrediction).find((one) => one.prediction.id === prediction.id);
      return kept?.refusal ?? null;
    },
    [flush, refresh],
  );

  const checkMeter = useCallback(
    async (check: MeterEntry) => {
      await putCheck(check, cellKey.split(",")[0] ?? "");
      await refresh();
      await flush();
      return (await pending()).filter(isCheck).find((one) => one.check.id === check.id)?.refusal ?? null;
    },
    [cellKey, flush, refresh],
  );

  const remove = useCallback(
    async (id: string) => {
      await drop(id);
      await flush();
    },
    [flush],
  );

  return { waiting, predictions, checks, trouble, add, predict, checkMeter, remove };
}

export type Outbox = ReturnType<typeof useOutbox>;
