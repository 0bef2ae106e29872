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
