import { useState } from "react";

/** A random id; works on plain http in a school's network too, where crypto.randomUUID does not. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

/** An id for what is being made: the same however often it is sent, another as soon as its content is another. */
export function useIdOf(content: unknown): string {
  const what = JSON.stringify(content);
  const [kept, setKept] = useState(() => ({ what, id: newId() }));
  if (kept.what === what) return kept.id;
  const fresh = { what, id: newId() };
  setKept(fresh);
  return fresh.id;
}
