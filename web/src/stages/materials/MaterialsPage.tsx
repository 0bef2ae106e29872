import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useMaterials, useOwnMaterials, useShort } from "../../api/materials";
import { Button, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Frame } from "../../ui/Frame";
import { Column, Columns, Row, Soft } from "../../ui/layout";
import { type MarginNote, Notes } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { useInAddress } from "../../ui/useInAddress";
import { usePhone } from "../../ui/usePhone";
import { Waiting } from "../../ui/Waiting";
import { AboutMaterial, type Stocked } from "./AboutMaterial";
import { MakeLiquid } from "./MakeLiquid";
import { OwnElectrode, OwnElectrolyte } from "./OwnForms";
import { type Item, Shelf } from "./Shelf";
import { TwoSolutions } from "./TwoSolutions";

/** How liquids come, in a word. */
const FORMS: Record<string, string> = {
  juice: t`juice`,
  fizzy: t`liquid`,
  whole: t`whole`,
  liquid: t`liquid`,
  sulfate: t`sulfate`,
  paste: t`paste`,
  card: t`card`,
  "acid-card": t`acid card`,
  flowing: t`flowing`,
};

/** What can be made: opens where a material would. */
const MAKE = {
  "make-liquid": t`Make a liquid`,
  "make-two": t`Two solutions`,
  "make-plate": t`A plate of your own`,
  "make-numbers": t`A liquid by its numbers`,
} as const;
type Make = keyof typeof MAKE;

/** Stays in sight beside long shelves. */
const Down = styled(Column)`
  @media (min-width: 64rem) {
    position: sticky;
    top: 0;
    align-self: start;
    max-height: 100vh;
    overflow-y: auto;
  }
`;

const plain = (text: string) => text.toLowerCase().replace(/[-_]/g, " ").trim();
const matches = (search: string, words: string[]) => words.some((word) => plain(word).includes(plain(search)));

/** What is short, most useful first, and how the cupboard works. */
function notesOf(short: Schemas["ShortOut"][], names: Map<string, string>): MarginNote[] {
  const missing = short.map((one) => ({
    code: `short-${one.key}`,
    tone: "caution" as const,
    title: t`Short: ${names.get(one.key) ?? one.key}`,
    text: t`${one.there} there, ${Math.round(100 * one.needed) / 100} needed for ${one.labs.join(", ")}.`,
  }));
  return [
    ...missing,
    {
      code: "counts",
      tone: "plain" as const,
      title: t`Counts are kept as you leave the field`,
      text: t`Where fewer plates are there than groups, a plan gives them to that many groups only.`,
    },
    {
      code: "own",
      tone: "plain" as const,
      title: t`Your own materials`,
      text: t`They are used everywhere like the shipped ones. A change makes a new one: old labs keep what they were judged by.`,
    },
  ];
}

/** The teacher's cupboard: shelves of names; a press takes one down and shows all that is known of it. */
export function MaterialsPage() {
  const materials = useMaterials();
  const own = useOwnMaterials();
  const short = useShort();
  const phone = usePhone();
  const [address, setAddress] = useInAddress();
  const [search, setSearch] = useState("");
  const [all, setAll] = useState(false);
  const [changing, setChanging] = useState(false);
  const heading = useRef<HTMLDivElement>(null);
  const at = address.get("at");
  const now = useRef(at);
  useEffect(() => {
    now.current = at;
  }, [at]);
  useEffect(() => {
    if (at && phone) heading.current?.scrollIntoView();
  }, [at, phone]);
  if (!materials.data) return <Waiting title={t`Cupboard`} error={materials.error} />;
  const { electrodes, electrolytes, additions, edition } = materials.data;
  const open = (key: string | null) => {
    setChanging(false);
    setAddress({ at: key });
  };
  const missing = new Map(short.data?.map((one) => [one.key, one]));
  const stocked: Stocked[] = [...electrodes, ...electrolytes];
  const here = stocked.find((one) => one.key === at) ?? null;
  const shown = (one: {
    key: string;
    name: string;
    synonyms: string[];
    usual: boolean;
    retired: boolean;
    shelf: Schemas["OnShelf"];
  }) =>
    !one.retired &&
    (search.trim()
      ? matches(search, [one.name, ...one.synonyms])
      : all || one.usual || one.shelf.count !== null || missing.has(one.key));
  const item = (key: string, name: string, sign: string): Item => {
    const lack = missing.get(key);
    return { key, name, sign, short: lack ? t`${Math.round(10 * (lack.needed - lack.there)) / 10} short` : null };
  };
  const shelves: [string, Item[]][] = [
    [
      t`Plates`,
      electrodes
        .filter(shown)
        .map((electrode) =>
          item(
            electrode.key,
            electrode.name,
            electrode.shelf.count === null ? electrode.symbol : `${electrode.symbol} × ${electrode.shelf.count}`,
          ),
        ),
    ],
    [
      t`Liquids`,
      electrolytes
        .filter(shown)
        .map((electrolyte) =>
          item(electrolyte.key, electrolyte.name, electrolyte.own ? t`yours` : (FORMS[electrolyte.form] ?? "")),
        ),
    ],
    [
      t`To stir in`,
      additions
        .filter((addition) => (search.trim() ? matches(search, [addition.name]) : all || !addition.metal))
        .map((addition) =>
          item(
            addition.key,
            addition.name,
            addition.metal ? t`a metal’s salt` : addition.unit === "g" ? t`weighed` : t`poured`,
          ),
        ),
    ],
  ];
  const nothing = shelves.every(([, items]) => items.length === 0);
  const plate = own.data?.electrodes.find((electrode) => electrode.key === at);
  const liquid = own.data?.electrolytes.find((electrolyte) => electrolyte.key === at);
  const names = new Map(stocked.map((one) => [one.key, one.name]));
  /** A form is done when all is shown anew: who has opened something else since then stays there. */
  const doneWith = (key: string | null) => {
    if (now.current === at) open(key);
  };
  const done = () => doneWith(null);
  const forms: Record<Make, ReactNode> = {
    "make-liquid": <MakeLiquid materials={materials.data} done={doneWith} />,
    "make-two": <TwoSolutions materials={materials.data} done={doneWith} />,
    "make-plate": <OwnElectrode materials={materials.data} changes={null} done={done} />,
    "make-numbers": <OwnElectrolyte materials={materials.data} changes={null} done={done} />,
  };
  const down = at && (
    <Down ref={heading} aria-live="polite">
      {at in MAKE ? (
        <>
          <Row>
            <h2>{MAKE[at as Make]}</h2>
            <TextButton onPress={done}>
              <Trans>Back to the shelves</Trans>
            </TextButton>
          </Row>
          {forms[at as Make]}
        </>
      ) : changing && (plate ?? liquid) ? (
        <section aria-label={t`Change ${plate?.name ?? liquid?.name ?? ""}`}>
          <h2>
            <Trans>Change {plate?.name ?? liquid?.name}</Trans>
          </h2>
          <Soft>
            <Trans>Old labs keep it as it was; new ones get the changed one, with its count and price.</Trans>
          </Soft>
          {plate && <OwnElectrode key={plate.key} materials={materials.data} changes={plate} done={done} />}
          {liquid && <OwnElectrolyte key={liquid.key} materials={materials.data} changes={liquid} done={done} />}
        </section>
      ) : (
        <AboutMaterial
          at={at}
          stocked={here}
          unit={electrodes.some((electrode) => electrode.key === at) ? "piece" : "litre"}
          short={missing.get(at)}
          change={(plate ?? liquid) ? () => setChanging(true) : null}
          close={done}
        />
      )}
    </Down>
  );
  const list = (
    <Column>
      <h1>
        <Trans>Your cupboard</Trans>
      </h1>
      <p>
        <Link to="/labs">
          <Trans>Back to your labs</Trans>
        </Link>
      </p>
      <TextField
        label={t`Search`}
        hint={t`By any name people use: penny, lime, alu foil.`}
        value={search}
        onChange={setSearch}
        type="search"
        maxLength={40}
      />
      <Row role="group" aria-label={t`Make something of your own`}>
        {Object.entries(MAKE).map(([key, name]) => (
          <Button key={key} onPress={() => open(key)}>
            {name}
          </Button>
        ))}
      </Row>
      {shelves.map(([title, items]) => (
        <Shelf key={title} title={title} items={items} here={at} open={open} />
      ))}
      {nothing && (
        <p role="status">
          <Trans>Nothing is called that here. Make it your own, above.</Trans>
        </p>
      )}
      {!search.trim() && (
        <p>
          <TextButton onPress={() => setAll(!all)}>
            {all ? t`Show the usual ones` : t`Show all ${electrodes.length + electrolytes.length + additions.length}`}
          </TextButton>
        </p>
      )}
    </Column>
  );
  return (
    <Frame
      title={t`Cupboard`}
      lab={t`Your cupboard`}
      about={t`tables of ${edition}`}
      margin={
        <>
          {!short.data && <ProblemNote problem={short.error} />}
          <Notes notes={notesOf(short.data ?? [], names)} />
        </>
      }
    >
      {down && phone ? down : down ? <Columns $left="minmax(0, 1fr)">{[list, down]}</Columns> : list}
    </Frame>
  );
}
