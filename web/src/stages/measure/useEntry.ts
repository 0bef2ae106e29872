import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useKept } from "../../ui/useKept";

type Origin = Schemas["ReadingIn"]["origin"];

/** The number being entered for a cell, one for a new reading and one for each entry being corrected. */
export function useEntry(groupId: string, cellId: string, slot: string) {
  const [texts, setTexts] = useKept<Record<string, string>>(`${groupId}:entries:${cellId}`, {});
  const [units, setUnits] = useState<Record<string, "V" | "mV">>({});
  const [origin, setOrigin] = useState<Origin>("typed");
  const text = texts[slot] ?? "";
  const unit = units[slot] ?? "V";
  const setUnit = (next: "V" | "mV") => setUnits((before) => ({ ...before, [slot]: next }));
  const set = (change: (before: string) => string) =>
    setTexts((before) => ({ ...before, [slot]: change(before[slot] ?? "") }));
  return {
    text,
    unit,
    origin,
    setUnit,
    /** What a person types. */
    type: (change: (before: string) => string) => {
      set(change);
      setOrigin("typed");
    },
    /** A number in volts that a meter or a file gives. */
    fill: (value: string, from: Origin) => {
      set(() => value);
      setUnit("V");
      setOrigin(from);
    },
  };
}

export type EntryState = ReturnType<typeof useEntry>;
