import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { TraceLine } from "../charts/TraceLine";
import { asTyped, moment } from "../format";
import { Num } from "../ui/layout";
import { colour, print } from "../ui/theme";
import { Asked } from "./Asked";

const Pictures = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  img {
    width: 14rem;
    max-width: 100%;
    border: 1px solid ${colour.hairline};
  }
  ${print} {
    img {
      width: 6cm;
    }
  }
`;

/** Where in a document a piece of evidence stands. */
export const anchorOf = (cite: { id: string }) => `evidence-${cite.id}`;

/** What was kept of a cell beside its readings. */
export function Kept({ beside }: { beside: Schemas["Beside"] }) {
  const photos = beside.photos.filter((photo) => photo.removed_at === null);
  return (
    <>
      {beside.under_load.map((one) => (
        <p key={one.id} id={anchorOf(one)}>
          <Num>{asTyped(one.text, one.unit)}</Num>{" "}
          {one.kind === "short" ? t`short-circuit current` : t`across ${one.load_ohm ?? 0} Ω`}. {one.says}
        </p>
      ))}
      {beside.actuals.map((one) => (
        <p key={one.id}>
          <Trans>
            {one.name}, as the group measured it: <Num>{one.text}</Num>
          </Trans>
        </p>
      ))}
      {beside.observations.map((one) => (
        <p key={one.id}>
          <Trans>Seen: “{one.text}”</Trans>
        </p>
      ))}
      {beside.questions.map((one) => (
        <p key={one.id}>
          <Asked question={one} />
        </p>
      ))}
      {beside.traces.map((one) => (
        <figure key={one.id} id={anchorOf(one)}>
          <TraceLine
            points={one.times_s.map((t, index) => [t, one.volts_v[index] ?? 0] as const)}
            label={t`Voltage against time, ${one.name}`}
          />
          <figcaption>{one.name}</figcaption>
        </figure>
      ))}
      {photos.length > 0 && (
        <Pictures>
          {photos.map((photo, place) => (
            <li key={photo.id}>
              <img src={`/api/photos/${photo.id}`} alt={t`Photograph ${place + 1}, ${moment(photo.received_at)}`} />
            </li>
          ))}
        </Pictures>
      )}
    </>
  );
}
