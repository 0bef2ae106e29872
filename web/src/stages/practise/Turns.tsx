import { type ReactNode, useEffect, useRef } from "react";

/** One question after another: the next one's heading takes the focus, which the button of the one before had. */
export function Turns({ at, children }: { at: number; children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const first = useRef(at);
  useEffect(() => {
    const heading = box.current?.querySelector("h1");
    if (at === first.current || !heading) return;
    heading.tabIndex = -1;
    heading.focus();
  }, [at]);
  return <div ref={box}>{children}</div>;
}
