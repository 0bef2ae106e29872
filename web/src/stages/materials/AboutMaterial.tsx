import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useAbout, useRetire, useSetShelf } from "../../api/materials";
import { Button, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Num, Row, Small, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";

const Facts = styled.dl`
  display: grid;
  gap: 0.6rem;
  dt {
    font-weight: 600;
  }
`;

type Shelf = Schemas["OnShelf"];
export type Stocked = { key: string; name: string; own: boolean; retired: boolean; shelf: Shelf };

const asNumber = (text: string): number | null | undefined => {
  if (!text.trim()) return null;
  const value = Number(text.replace(",", "."));
  return Number.isFinite(value) && value >= 0 ? value : undefined;
};

/** How many there are and what one costs; kept on leaving the field. */
function OnTheShelf({ material, unit }: { material: Stocked; unit: "piece" | "litre" }) {
  const set = useSetShelf(material.key);
  const [count, setCount] = useState<string | null>(null);
  const [price, setPrice] = useState<string | null>(null);
  // What was typed stands until the cupboard shows it: what is saved next would take it back. Typed meanwhile, it stays.
  const [kept, setKept] = useState<{ count: string | null; price: string | null } | null>(null);
  if (count !== null && count === kept?.count && asNumber(count) === material.shelf.count) setCount(null);
  if (price !== null && price === kept?.price && asNumber(price) === material.shelf.price) setPrice(null);
  const shown = (typed: string | null, kept: number | null) => typed ?? (kept === null ? "" : String(kept));
  const [there, cost] = [asNumber(shown(count, material.shelf.count)), asNumber(shown(price, material.shelf.price))];
  const wrong =
    there === undefined || cost === undefined || (unit === "piece" && there !== null && !Number.isInteger(there));
  const save = () => {
    if (wrong || (count === null && price === null)) return;
    const sent = { count, price };
    set.mutate(
      { count: there, price: cost },
      {
        onSuccess: () => setKept(sent),
      },
    );
  };
  return (
    <Row style={{ alignItems: "start" }}>
      <TextField
        label={unit === "piece" ? t`How many there are` : t`Litres there are`}
        hint={t`Empty: enough.`}
        value={shown(count, material.shelf.count)}
        onChange={setCount}
        onBlur={save}
        inputMode="decimal"
        maxLength={6}
        error={wrong ? t`A number, please` : (set.error?.message ?? null)}
      />
      <TextField
        label={unit === "piece" ? t`Price of one piece` : t`Price of one litre`}
        hint={t`In your own currency.`}
        value={shown(price, material.shelf.price)}
        onChange={setPrice}
        onBlur={save}
        inputMode="decimal"
        maxLength={8}
      />
    </Row>
  );
}

type Props = {
  at: string;
  stocked: Stocked | null;
  unit: "piece" | "litre";
  short: Schemas["ShortOut"] | undefined;
  change: (() => void) | null;
  close: () => void;
};

/** One material taken down: what it is good for, how it is prepared, what can hurt, its numbers and where they are from. */
export function AboutMaterial({ at, stocked, unit, short, change, close }: Props) {
  const about = useAbout(at);
  const retire = useRetire();
  if (about.error) return <ProblemNote problem={about.error} />;
  if (!about.data)
    return (
      <Soft>
        <Trans>Taking it down …</Trans>
      </Soft>
    );
  const { name, what, use, prepare, hazards, facts } = about.data;
  return (
    <>
      <Row>
        <h2>{name}</h2>
        <TextButton onPress={close}>
          <Trans>Put it back</Trans>
        </TextButton>
      </Row>
      <Soft>
        {what}
        {stocked?.own && t` · yours`}
      </Soft>
      {short && (
        <p>
          <Trans>
            <strong>
              Short: <Num>{short.there}</Num> there, <Num>{Math.round(100 * short.needed) / 100}</Num> needed
            </strong>{" "}
            for {short.labs.join(", ")}.
          </Trans>
        </p>
      )}
      {stocked && <OnTheShelf key={at} material={stocked} unit={unit} />}
      {use.length > 0 && (
        <>
          <h3>
            <Trans>What it is good for</Trans>
          </h3>
          {use.map((one) => (
            <p key={one}>{one}</p>
          ))}
        </>
      )}
      {prepare.length > 0 && (
        <>
          <h3>
            <Trans>How to prepare it</Trans>
          </h3>
          {prepare.map((one) => (
            <p key={one}>{one}</p>
          ))}
        </>
      )}
      {hazards.length > 0 && (
        <>
          <h3>
            <Trans>What can hurt</Trans>
          </h3>
          {hazards.map((hazard) => (
            <p key={hazard.text}>
              {hazard.text} {hazard.do}
              {hazard.refuse.length > 0 && (
                <strong>
                  {" "}
                  <Trans>Not for ages {hazard.refuse.join(", ")}.</Trans>
                </strong>
              )}
            </p>
          ))}
          <Small>
            <Trans>Your school’s own rules and risk assessment come first.</Trans>
          </Small>
        </>
      )}
      <h3>
        <Trans>Its numbers</Trans>
      </h3>
      <Facts>
        {facts.map((fact) => (
          <div key={fact.what}>
            <dt>
              {fact.what} <Num>{fact.value}</Num>
            </dt>
            <dd>
              <Small>{[fact.source, fact.locator, fact.checked].filter(Boolean).join("; ")}</Small>
            </dd>
          </div>
        ))}
      </Facts>
      {stocked?.own && !stocked.retired && (
        <Row>
          {change && (
            <Button onPress={change}>
              <Trans>Change {name}</Trans>
            </Button>
          )}
          <Button onPress={() => retire.mutate(at, { onSuccess: close })}>
            <Trans>Offer {name} no more</Trans>
          </Button>
        </Row>
      )}
      <ProblemNote problem={retire.error} />
    </>
  );
}
