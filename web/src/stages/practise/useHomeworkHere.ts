import { useCallback, useState } from "react";
import type { Schemas } from "../../api/client";
import { useSendAgain } from "../../lab/useOutbox";
import { type Tried, begin, keepTried, opened, sendTried, stop, unsentHere } from "./homework";

const AGAIN_MS = 10_000;

/** The homework on this device, and how many of its answers still wait here: null until that has been looked at. */
export function useHomeworkHere() {
  const [homework, setHomework] = useState(opened);
  const [unsent, setUnsent] = useState<number | null>(null);
  const [refused, setRefused] = useState<string[]>([]);
  const flush = useCallback(async () => {
    setUnsent(await unsentHere()); // before the network is asked, which may take long to say nothing
    const now = await sendTried();
    setUnsent(now.unsent);
    setRefused((before) => (now.refused.length > 0 ? [...new Set([...before, ...now.refused])] : before));
  }, []);
  useSendAgain(flush, AGAIN_MS);
  const tried = useCallback(
    async (one: Tried) => {
      if (!homework) return;
      const next = await keepTried(homework, one);
      setUnsent(await unsentHere());
      setHomework(next);
      await flush();
    },
    [homework, flush],
  );
  return {
    homework,
    unsent,
    refused,
    tried,
    begin: (found: Schemas["HomeworkForDevice"]) => setHomework(begin(found)),
    stop: () => {
      stop();
      setHomework(null);
    },
  };
}

export type HomeworkHere = ReturnType<typeof useHomeworkHere>;
