import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** What is chosen on a page, in its address, so that a reload, the way back or a link shows the same. */
export function useInAddress(): [URLSearchParams, (change: Record<string, string | string[] | null>) => void] {
  const [search, setSearch] = useSearchParams();
  const set = useCallback(
    (change: Record<string, string | string[] | null>) =>
      setSearch(
        (now) => {
          const next = new URLSearchParams(now);
          for (const [name, value] of Object.entries(change)) {
            next.delete(name);
            for (const one of value === null ? [] : [value].flat()) next.append(name, one);
          }
          return next;
        },
        { replace: true, preventScrollReset: true },
      ),
    [setSearch],
  );
  return [search, set];
}
