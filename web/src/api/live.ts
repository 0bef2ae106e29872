import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

/**
 * Hear of changes from the server while the page is in view: what `key` names is fetched anew at each. With `whole` the news
 * bring what `key` itself names, and only what stands below it is fetched. Returns whether the stream is open; while it is
 * not, the page looks by itself. A hidden page lets its stream go, since browsers keep few.
 */
export function useLive(path: string, key: QueryKey, whole = false): boolean {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const name = JSON.stringify(key);
  useEffect(() => {
    let source: EventSource | null = null;
    const queryKey = JSON.parse(name) as QueryKey;
    const refresh = () => void client.invalidateQueries({ queryKey });
    const changed = (event: MessageEvent<string>) => {
      if (!event.data.startsWith("{")) return refresh();
      // An answer that was asked for before is older than the news.
      void client.cancelQueries({ queryKey, exact: true });
      client.setQueryData(queryKey, JSON.parse(event.data));
      void client.invalidateQueries({ queryKey, predicate: (query) => query.queryKey.length > queryKey.length });
    };
    const leave = () => {
      source?.close();
      source = null;
      setOpen(false);
    };
    const follow = () => {
      if (document.hidden) return leave();
      if (source && source.readyState !== EventSource.CLOSED) return;
      source = new EventSource(whole ? `${path}?whole=1` : path);
      source.addEventListener("open", () => {
        setOpen(true);
        refresh();
      });
      source.addEventListener("changed", changed);
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
  }, [path, name, whole, client]);
  return open;
}
