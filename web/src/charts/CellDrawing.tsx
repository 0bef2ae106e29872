import { t } from "@lingui/core/macro";
import { colour, font } from "../ui/theme";
import { CellLevel, type Level } from "./CellLevel";
import { linesOf } from "./lines";
import { type Cups, OneCup, OneCupGlass, TwoCups, TwoCupsGlass, broken } from "./Vessels";

const PLATES: Record<string, string> = {
  magnesium: "#d3d8da",
  aluminium: "#c3cbd1",
  zinc: "#b4c1c8",
  "galvanized-nail": "#a9b4ba",
  steel: "#8d969b",
  nickel: "#c9c6b8",
  tin: "#d9dcd6",
  copper: "#d0905f",
  "copper-coin": "#c08050",
  silver: "#e2e4e6",
  lead: "#99a0a8",
  graphite: "#5a6167",
};
const LIQUIDS: Record<string, string> = {
  "rhubarb-juice": "#ecd3d8",
  "lemon-juice": "#f3ecc4",
  vinegar: "#efe9da",
  potato: "#efe4c8",
  "kelp-brine": "#d5e3d0",
  "beet-brine": "#e0bccb",
};

const WATER = "#dfeaf0";
/** What a plate and a liquid look like, by key. */
export const metal = (key: string) => PLATES[key] ?? "#b9c3c9";
export const poured = (key: string) => LIQUIDS[key] ?? WATER;

/** A solution by what it is called: copper's salts are blue, nickel's and iron's greenish. */
const solution = (name: string) =>
  /^(copper|kupfer)/i.test(name) ? "#bfdcf0" : /^(nickel|iron|eisen)/i.test(name) ? "#d5e8d2" : WATER;

type Props = {
  left: { key: string; symbol: string };
  right: { key: string; symbol: string };
  liquid: { key: string; name: string };
  redOnLeft: boolean;
  leads?: boolean;
  level?: Level | null;
  /** Names of what is in two cups, and the key of what joins them. */
  cups?: Cups | null;
  small?: boolean;
};

/** Sizes of letters in the drawing's own units; a small drawing has larger ones, so that they are read on a phone. */
const LETTERS = {
  usual: { value: 20, socket: 15, symbol: 18, word: 15 },
  small: { value: 28, socket: 28, symbol: 28, word: 28 },
};

const LETTER_WIDTH = 0.54; // of a letter's size, as drawn: “black” 0.52, “schwarz” 0.53
const BESIDE_PLATE = 26; // from the middle of a plate to the word beside it
const WIDE = 400;

/** Of a plate's label: as wide as the plate, or as its letters. */
const labelWidth = (symbol: string, size: number) => Math.max(36, LETTER_WIDTH * 1.1 * size * symbol.length + 6);

/** The cell to build: black goes to the meter's COM, red to V; without `leads` only the two plates in their cup. */
export function CellDrawing({
  left,
  right,
  liquid,
  redOnLeft,
  leads = true,
  level = null,
  cups = null,
  small = false,
}: Props) {
  const fill = poured(liquid.key);
  const letters = LETTERS[small ? "small" : "usual"];
  const under = cups ? [broken(cups.left), broken(cups.right)] : [];
  const plates = [
    { x: cups ? 94 : 112, red: redOnLeft, ...left },
    { x: cups ? (cups.joined === "pot" ? 276 : 306) : 268, red: !redOnLeft, ...right },
  ];
  const ends = plates
    .map((plate) =>
      plate.red
        ? t`The red lead goes from ${plate.symbol} to V on the meter.`
        : t`The black lead goes from ${plate.symbol} to COM on the meter.`,
    )
    .join(" ");
  const where = cups
    ? t`Two cups: ${left.symbol} in ${cups.left}, ${right.symbol} in ${cups.right}, joined by a ${liquid.name}`
    : t`A cup of ${liquid.name} with two plates, ${left.symbol} and ${right.symbol}`;
  const description = `${where}${level ? `, ${level.name} ${level.text}` : ""}. ${leads ? ends : ""}`;
  const word = { red: t`red`, black: t`black` };
  const longest = leads ? Math.max(word.red.length, word.black.length) : 0;
  const room = Math.min(...plates.map(({ x }) => Math.min(x, WIDE - x))) - BESIDE_PLATE;
  const beyond = Math.max(0, Math.ceil(LETTER_WIDTH * letters.word * longest) - room);
  const called = linesOf(liquid.name, Math.floor((WIDE + 2 * beyond) / (LETTER_WIDTH * letters.word)) - 1);
  const lineAt = (at: number) => 296 + letters.word * (1 + 1.1 * at);
  const foot = lineAt(Math.max(0, ...under.map((lines) => lines.length)) + called.length - 1);
  return (
    <svg
      viewBox={`${-beyond} 0 ${WIDE + 2 * beyond} ${foot + (level ? letters.word + 6 : 0) + 7}`}
      width="100%"
      role="img"
      aria-label={description}
    >
      <rect x={140} y={4} width={120} height={68} rx={8} fill={colour.white} stroke={colour.ink} strokeWidth={2} />
      <rect x={152} y={13} width={96} height={26} rx={3} fill="#e2ecde" stroke={colour.hairline} />
      <text x={200} y={33} textAnchor="middle" fontSize={letters.value} fontWeight={600} fontFamily={font.numbers}>
        –.–––
      </text>
      <text x={170} y={57} textAnchor="middle" fontSize={letters.socket}>
        COM
      </text>
      <text x={230} y={57} textAnchor="middle" fontSize={letters.socket}>
        V
      </text>
      {(leads ? plates : []).map(({ x, red }) => {
        const from = red ? 230 : 170;
        const bend = red === redOnLeft ? 104 : 96;
        return (
          <path
            key={x}
            d={`M${from} 66 C${from} ${bend}, ${x} 84, ${x} 122`}
            fill="none"
            stroke={red ? colour.wrong : colour.ink}
            strokeWidth={4}
            strokeDasharray={red ? undefined : "9 3"}
          />
        );
      })}
      <circle cx={170} cy={66} r={6} fill={colour.ink} />
      <circle cx={230} cy={66} r={6} fill={colour.wrong} />
      {cups ? (
        <TwoCups joined={cups.joined} fills={[solution(cups.left), solution(cups.right)]} />
      ) : (
        <OneCup fill={fill} />
      )}
      {plates.map(({ x, key, symbol, red }) => (
        <g key={x}>
          <rect x={x - 19} y={122} width={38} height={132} fill={metal(key)} stroke={colour.ink} strokeWidth={1.5} />
          <rect
            x={x - 19}
            y={178}
            width={38}
            height={76}
            fill={cups ? solution(x < 200 ? cups.left : cups.right) : fill}
            opacity={0.4}
          />
          <rect
            x={x - labelWidth(symbol, letters.symbol) / 2}
            y={126}
            width={labelWidth(symbol, letters.symbol)}
            height={letters.symbol + 8}
            rx={3}
            fill={colour.white}
          />
          <text x={x} y={127 + letters.symbol} textAnchor="middle" fontSize={letters.symbol} fontWeight={700}>
            {symbol}
          </text>
          <text
            x={x + (x < 200 ? -BESIDE_PLATE : BESIDE_PLATE)}
            y={118}
            textAnchor={x < 200 ? "end" : "start"}
            fontSize={letters.word}
            fontWeight={600}
            fill={red ? colour.wrong : colour.ink}
          >
            {leads && (red ? word.red : word.black)}
          </text>
        </g>
      ))}
      {cups ? <TwoCupsGlass joined={cups.joined} /> : <OneCupGlass />}
      {under.map((lines, side) =>
        lines.map((line, at) => (
          <text
            key={`${String(side)} ${line}`}
            x={side ? 288 : 112}
            y={lineAt(at)}
            textAnchor="middle"
            fontSize={letters.word}
            fontWeight={600}
          >
            {line}
          </text>
        )),
      )}
      {called.map((words, at) => (
        <text
          key={words}
          x={200}
          y={foot - 1.1 * letters.word * (called.length - 1 - at)}
          textAnchor="middle"
          fontSize={letters.word}
          fontWeight={600}
        >
          {words}
        </text>
      ))}
      {level && (
        <>
          <CellLevel level={level} size={letters.word} />
          <text x={200} y={foot + letters.word + 6} textAnchor="middle" fontSize={letters.word} fontWeight={600}>
            {level.name} {level.text}
          </text>
        </>
      )}
    </svg>
  );
}
