import { colour } from "../ui/theme";

export type Level = { variable: string; name: string; text: string };

type Props = { level: Level; size: number };

const line = { stroke: colour.ink, strokeWidth: 2, fill: "none" };

/** What is to be set, drawn where it is: a distance between the plates, a depth beside one, a thermometer. */
export function CellLevel({ level: { variable, text }, size }: Props) {
  if (variable === "spacing")
    return (
      <g>
        <path d="M131 262v12M249 262v12M131 268h118" {...line} />
        <text x={190} y={258} textAnchor="middle" fontSize={size} fontWeight={700}>
          {text}
        </text>
      </g>
    );
  if (variable === "depth" || variable === "length")
    return (
      <g>
        <path
          d={`M292 ${variable === "depth" ? 178 : 122}h12M292 254h12M298 ${variable === "depth" ? 178 : 122}V254`}
          {...line}
        />
        <text x={268} y={281} textAnchor="middle" fontSize={size} fontWeight={700}>
          {text}
        </text>
      </g>
    );
  if (variable === "temperature")
    return (
      <g>
        <path d="M186 248V120q0-7 7-7t7 7V248" {...line} fill={colour.white} />
        <path d="M193 255V150" stroke={colour.wrong} strokeWidth={5} />
        <circle cx={193} cy={256} r={11} fill={colour.wrong} stroke={colour.ink} strokeWidth={2} />
        <text x={193} y={106} textAnchor="middle" fontSize={size} fontWeight={700}>
          {text}
        </text>
      </g>
    );
  if (variable === "stirring" && text === "stirred")
    return <path d="M196 110V252M176 256q20 14 42 0M212 248l8 6-8 8" {...line} />;
  return null;
}
