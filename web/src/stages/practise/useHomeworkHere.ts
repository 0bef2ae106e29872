import { useCallback, useState } from "react";
import type { Schemas } from "../../api/client";
import { useSendAgain } from "../../lab/useOutbox";
import { type Tried, type Waiting, begin, keepTried, opened, sendTried, stop } from "./homework";

const AGAIN_MS = 10_000;
const NOTHING: Waiting = { unsent: 0, refused: [] };

/** The homework on this device, and what of it still waits here. */
export function useHomeworkHere() {
  const [homework, setHomework] = useState(opened);
  const [waiting, setWaiting] = useState(NOTHING);
  const flush = useCallback(async () => {
    const now = await sendTried();
    setWaiting((before) => ({ ...now, refused: [...new Set([...before.refused, ...now.refused])] }));
  }, []);
  useSendAgain(flush, AGAIN_MS);
  const tried = useCallback(
    async (one: Tried) => {
      if (!homework) return;
      setHomework(await keepTried(homework, one));
      await flush();
    },
    [homework, flush],
  );
  return {
    homework,
    waiting,
    tried,
    begin: (found: Schemas["HomeworkForDevice"]) => setHomework(begin(found)),
    stop: () => {
      stop();
      setHomework(null);
    },
  };
}

export type HomeworkHere = ReturnType<typeof useHomeworkHere>;
