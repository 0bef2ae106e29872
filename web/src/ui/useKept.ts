import { type Dispatch, type SetStateAction, useCallback, useEffect, useState } from "react";

const PREFIX = "pipette:";

function read<T>(key: string): T | undefined {
  try {
    const found = sessionStorage.getItem(PREFIX + key);
    return found === null ? undefined : (JSON.parse(found) as T);
  } catch {
    return undefined; // storage may be shut off; then typing is only as safe as the page
  }
}

/** The texts that a group has begun and not sent, in this tab: their keys begin with the group's id. */
export function keptTexts(group: string): number {
  try {
    return Object.entries(sessionStorage).filter(
      ([key, value]) => key.startsWith(`${PREFIX}${group}:`) && isText(String(value)),
    ).length;
  } catch {
    return 0;
  }
}

/** Whether something that is kept has words or a number in it. */
function isText(json: string): boolean {
  const value = JSON.parse(json) as unknown;
  const words = typeof value === "object" && value !== null ? Object.values(value) : [value];
  return words.some((word) => typeof word === "string" && word.trim() !== "");
}

/** State that outlives a reload or a step to another page and back, in this tab; the third value forgets it. */
export function useKept<T>(key: string, start: T | (() => T)): [T, Dispatch<SetStateAction<T>>, () => void] {
  const [value, setValue] = useState<T>(() => read<T>(key) ?? (start instanceof Function ? start() : start));
  useEffect(() => {
    try {
      sessionStorage.setItem(PREFIX + key, JSON.stringify(value));
    } catch {
      // see above
    }
  }, [key, value]);
  const forget = useCallback(() => sessionStorage.removeItem(PREFIX + key), [key]);
  return [value, setValue, forget];
}
