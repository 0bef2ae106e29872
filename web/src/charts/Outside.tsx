import { plural } from "@lingui/core/macro";
import type { ReactNode } from "react";

/** How many values a picture leaves out, and perhaps where they are; nothing where it shows all. */
export function Outside({ n, children }: { n: number; children?: ReactNode }) {
  if (n === 0) return null;
  return (
    <p>
      {plural(n, {
        one: "# value lies outside the picture: it does not count.",
        other: "# values lie outside the picture: they do not count.",
      })}{" "}
      {children}
    </p>
  );
}
