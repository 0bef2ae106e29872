import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

/**
 * Hear of changes from the server while the page is in view: what `key` names is fetched anew at each. Returns whether the
 * stream is open; while it is not, the page looks by itself. A hidden page lets its stream go, since browsers keep few.
 */
export function useLive(path: string, key: QueryKey): boolean {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const name = JSON.stringify(key);
  useEffect(() => {
    let source: EventSource | null = null;
    const refresh = () => void client.invalidateQueries({ queryKey: JSON.parse(name) as QueryKey });
    const leave = () => {
      source?.close();
      source = null;
      setOpen(false);
    };
    const follow = () => {
      if (document.hidden) return leave();
      if (source && source.readyState !== EventSource.CLOSED) return;
      source = new EventSource(path);
      source.addEventListener("open", () => {
        setOpen(true);
        refresh();
      });
      source.addEventListener("changed", refresh);
      source.addEventListener("error", () => setOpen(false));
    };
    follow();
    document.addEventListener("visibilitychange", follow);
    const again = setInterval(follow, 10_000);
    return () => {
      clearInterval(again);
      document.removeEventListener("visibilitychange", follow);
      leave();
    };
  }, [path, name, client]);
  return open;
}
