import { useEffect, useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { createStore, get, set } from "idb-keyval";
import { GET, dataOf } from "./client";

/** What the server says of itself, and how far this device's clock is from its own, s. */
export const useCheck = () =>
  useQuery({
    queryKey: ["check"],
    staleTime: Infinity,
    queryFn: async () => {
      const asked = Date.now();
      const told = await dataOf(GET("/api/check"));
      const between = (asked + Date.now()) / 2;
      return { ...told, off_s: (between - Date.parse(told.now)) / 1000 };
    },
  });

const BEFORE_ENDS_MS = 1100; // the ticks come 0.7 s apart: what comes with the last has been held back
const GIVEN_UP_MS = 8000;

export type News = "waiting" | "live" | "late" | "none";

/** Whether news come as they happen, all at once at the end, or not at all. */
export function useNews(): News {
  const [news, setNews] = useState<News>("waiting");
  useEffect(() => {
    const source = new EventSource("/api/check/events");
    let first = 0;
    let count = 0;
    const timer = setTimeout(() => setNews("none"), GIVEN_UP_MS);
    const over = (what: News) => {
      clearTimeout(timer);
      source.close();
      setNews(what);
    };
    source.onmessage = () => {
      count += 1;
      if (count === 1) first = Date.now();
      if (count === 3) over(Date.now() - first > BEFORE_ENDS_MS ? "live" : "late");
    };
    source.onerror = () => over("none");
    return () => {
      clearTimeout(timer);
      source.close();
    };
  }, []);
  return news;
}

/** Whether the browser keeps what is typed; null while it is tried. */
export function useKeeps(): boolean | null {
  const [keeps, setKeeps] = useState<boolean | null>(null);
  useEffect(() => {
    const word = String(Date.now());
    void (async () => {
      try {
        const store = createStore("pipette-check", "check");
        await set("word", word, store);
        setKeeps((await get("word", store)) === word);
      } catch {
        setKeeps(false);
      }
    })();
  }, []);
  return keeps;
}
