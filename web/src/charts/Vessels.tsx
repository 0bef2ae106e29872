import { colour } from "../ui/theme";

export type Cups = { left: string; right: string; joined: string };

const GLASS = { fill: "none", stroke: colour.ink, strokeWidth: 2.5 };

/** One cup for both plates, its liquid up to the same height. */
export function OneCup({ fill }: { fill: string }) {
  return <path d="M62 178v98q0 14 14 14h248q14 0 14-14v-98z" fill={fill} />;
}

export function OneCupGlass() {
  return <path d="M62 158v118q0 14 14 14h248q14 0 14-14V158" {...GLASS} />;
}

/** Two solutions: two cups with a strip or a filled tube between them, or a porous pot that stands in a cup. */
export function TwoCups({ joined, fills }: { joined: string; fills: [string, string] }) {
  if (joined === "pot")
    return (
      <>
        <OneCup fill={fills[0]} />
        <path d="M212 178v84q0 12 12 12h88q12 0 12-12v-84z" fill={fills[1]} />
      </>
    );
  return (
    <>
      <path d="M48 178v98q0 14 14 14h100q14 0 14-14v-98z" fill={fills[0]} />
      <path d="M224 178v98q0 14 14 14h100q14 0 14-14v-98z" fill={fills[1]} />
    </>
  );
}

export function TwoCupsGlass({ joined }: { joined: string }) {
  if (joined === "pot")
    return (
      <>
        <OneCupGlass />
        <path
          d="M212 150v112q0 12 12 12h88q12 0 12-12V150"
          fill="none"
          stroke="#9a6a45"
          strokeWidth={6}
          strokeDasharray="5 3"
        />
      </>
    );
  return (
    <>
      <path d="M48 158v118q0 14 14 14h100q14 0 14-14V158M224 158v118q0 14 14 14h100q14 0 14-14V158" {...GLASS} />
      <path
        d="M160 236V150q0-10 10-10h60q10 0 10 10v86"
        fill="none"
        stroke={colour.ink}
        strokeWidth={joined === "gel" ? 15 : 11}
      />
      <path
        d="M160 235V150q0-10 10-10h60q10 0 10 10v85"
        fill="none"
        stroke={joined === "gel" ? "#f1ead8" : colour.white}
        strokeWidth={joined === "gel" ? 11 : 8}
      />
    </>
  );
}

/** A name in at most two lines, broken where it is nearest to its middle. */
export function broken(name: string): string[] {
  const words = name.split(" ");
  if (name.length < 14 || words.length < 2) return [name];
  const cuts = words.slice(1).map((_, index) => words.slice(0, index + 1).join(" "));
  const first = cuts.reduce((best, one) =>
    Math.abs(one.length - name.length / 2) < Math.abs(best.length - name.length / 2) ? one : best,
  );
  return [first, name.slice(first.length + 1)];
}
