import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** The width in pixels of an element, so that a chart is drawn at its real size and its text never shrinks. */
export function useWidth<T extends HTMLElement>(start: number): [RefObject<T | null>, number] {
  const ref = useRef<T>(null);
  const [width, setWidth] = useState(start);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setWidth(Math.round(entry.contentRect.width));
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}
