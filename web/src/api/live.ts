import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { language } from "../language";
import { fetchAnew } from "./queries";

/**
 * Hear of changes from the server while the page is in view: what `key` names is fetched anew at each. With `told` the news
 * bring what `key` itself names, as JSON that is handed to it too, and only what stands below is fetched. Returns whether the
 * stream is open; while it is not, the page looks by itself. A hidden page lets its stream go, since browsers keep few.
 */
export function useLive(path: string, key: QueryKey, told: ((json: string) => void) | null = null): boolean {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const name = JSON.stringify(key);
  useEffect(() => {
    let source: EventSource | null = null;
    const queryKey = JSON.parse(name) as QueryKey;
    const refresh = () => void fetchAnew(client, { queryKey });
    const changed = (event: MessageEvent<string>) => {
      if (!event.data.startsWith("{")) return refresh();
      // An answer that was asked for before is older than the news.
      void client.cancelQueries({ queryKey, exact: true });
      client.setQueryData(queryKey, JSON.parse(event.data));
      told?.(event.data);
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
      source = new EventSource(`${path}?lang=${language}${told ? "&whole=1" : ""}`);
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
  }, [path, name, told, client]);
  return open;
}
