import { type ComponentProps, useLayoutEffect, useRef, useState } from "react";
import styled from "styled-components";
import { print } from "./theme";

const Box = styled.div`
  overflow-x: auto;
  ${print} {
    overflow: visible;
  }
`;

/** What may be wider than its place and is then scrolled, by keyboard, too; a stop of the Tab key only where it is. */
export function Scroll(props: ComponentProps<typeof Box>) {
  const ref = useRef<HTMLDivElement>(null);
  const [wider, setWider] = useState(false);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWider(element.scrollWidth > element.clientWidth + 1));
    observer.observe(element);
    for (const child of element.children) observer.observe(child);
    return () => observer.disconnect();
  }, []);
  return <Box ref={ref} tabIndex={wider ? 0 : undefined} {...props} />;
}
