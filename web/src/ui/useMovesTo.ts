import { type RefObject, useEffect, useRef } from "react";

/** Bring what is to be done next into view, its heading focused; where there is a keyboard the field keeps the focus. */
export function moveTo(heading: HTMLElement | null): void {
  if (!heading) return;
  heading.scrollIntoView({ block: "start" });
  if (!matchMedia("(hover: hover)").matches) heading.focus({ preventScroll: true });
}

/** The page moves to the work: whenever `what` becomes another, the heading comes into view. Not when the page opens. */
export function useMovesTo(what: string | number | null, heading: RefObject<HTMLElement | null>): void {
  const before = useRef<string | number | null>(null);
  useEffect(() => {
    if (what === null || what === before.current) return;
    const opened = before.current === null;
    before.current = what;
    if (!opened) moveTo(heading.current);
  }, [what, heading]);
}
