import { useEffect, useState } from "react";

const TICK_MS = 500;

/** Seconds since the plates went in and since a load was joined, going on while they are; null while they are out. */
export function useDipped() {
  const [since, setSince] = useState<number | null>(null);
  const [joined, setJoined] = useState(0);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (since === null) return;
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, [since]);
  return {
    seconds: since === null ? null : Math.max(0, (now - since) / 1000),
    loaded: Math.max(0, (now - joined) / 1000),
    dip: () => {
      setSince(Date.now());
      setJoined(Date.now());
      setNow(Date.now());
    },
    join: () => {
      setJoined(Date.now());
      setNow(Date.now());
    },
    out: () => setSince(null),
  };
}
