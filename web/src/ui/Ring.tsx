import { useEffect, useState } from "react";
import { colour, font } from "./theme";

const TURN = 2 * Math.PI * 24;

/** A ring that fills up; `part` from 0 to 1. */
export function Ring({ part, text }: { part: number; text: string }) {
  const done = part >= 1;
  return (
    <svg width="58" height="58" viewBox="0 0 58 58" aria-hidden>
      <circle cx="29" cy="29" r="24" fill="none" stroke={colour.hairline} strokeWidth="7" />
      <circle
        cx="29"
        cy="29"
        r="24"
        fill="none"
        stroke={done ? colour.good : colour.reading}
        strokeWidth="7"
        strokeDasharray={`${Math.min(1, part) * TURN} ${TURN}`}
        transform="rotate(-90 29 29)"
      />
      {done ? (
        <path d="M19 30l7 8 14-17" fill="none" stroke={colour.good} strokeWidth="4" />
      ) : (
        <text x="29" y="34" textAnchor="middle" fontSize="14" fontWeight="600" fontFamily={font.numbers}>
          {text}
        </text>
      )}
    </svg>
  );
}

/** Seconds since `from`, counted while it is set. */
export function useSeconds(from: number | null): number {
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (from === null) return;
    const tick = () => setNow(Date.now());
    const first = setTimeout(tick, 0);
    const timer = setInterval(tick, 500);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
    };
  }, [from]);
  return from === null ? 0 : Math.max(0, (now - from) / 1000);
}
