import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { FileTrigger } from "react-aria-components";
import { time } from "../../format";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { only } from "../../api/outbox";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Row, Soft, WrongText } from "../../ui/layout";
import { Photographs } from "./Photographs";
import { Unsent, useTextAtCell } from "./textAtCell";
import { shrink } from "./shrink";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";

const Form = styled.form`
  display: grid;
  gap: 0.6rem;
`;

const QUICK = [t`bubbles`, t`colour changes`, t`a film on the plate`, t`no change to see`];
type Props = { cell: Schemas["BenchCell"]; open: boolean; outbox: Outbox };

/** What the group sees at this cell, in words and pictures, each with its time. */
export function Seen({ cell, open, outbox }: Props) {
  const { observations, photos } = cell.beside;
  const { text, type, more, wrong, setWrong, waiting, keep } = useTextAtCell(
    outbox,
    "note",
    cell.id,
    observations,
    t`Write what you see first.`,
  );
  const pictures = only(outbox.waiting, "photo").filter(
    (one) => one.cell_id === cell.id && !photos.some(({ id }) => id === one.id),
  );
  const add = async (chosen: FileList | null) => {
    for (const picked of chosen ?? []) {
      const id = newId();
      let file: File;
      try {
        file = await shrink(picked);
      } catch {
        setWrong(t`“${picked.name}” is no picture this browser can read. Choose a JPEG, PNG or WebP picture.`);
        continue;
      }
      const body = { id, cell_id: cell.id, device_at: new Date().toISOString() };
      setWrong(await outbox.add({ kind: "photo", id, cell_id: cell.id, body, file }));
    }
  };

  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      {observations.length + waiting.length > 0 && (
        <ul aria-label={t`What you noted`}>
          {observations.map((observation) => (
            <li key={observation.id}>
              {time(observation.received_at)} {observation.text}
            </li>
          ))}
          <Unsent rows={waiting} />
        </ul>
      )}
      <TextField label={t`What do you see?`} value={text} onChange={type} maxLength={300} rows={2} isDisabled={!open} />
      <Row role="group" aria-label={t`Often seen`}>
        {QUICK.map((one) => (
          <Button key={one} isDisabled={!open} onPress={() => more((now) => (now ? `${now}, ${one}` : one))}>
            {one}
          </Button>
        ))}
      </Row>
      <Row>
        <Button type="submit" isDisabled={!open}>
          <Trans>Keep this note</Trans>
        </Button>
        <FileTrigger
          acceptedFileTypes={["image/jpeg", "image/png", "image/webp"]}
          onSelect={(chosen) => void add(chosen)}
        >
          <Button isDisabled={!open}>
            <Trans>Add a photograph</Trans>
          </Button>
        </FileTrigger>
        <Soft>
          <Trans>Plates only, no faces.</Trans>
        </Soft>
      </Row>
      {wrong && <WrongText role="alert">{wrong}</WrongText>}
      {photos.length + pictures.length > 0 && (
        <Photographs
          photos={photos}
          more={pictures.map((picture) => (
            <li key={picture.id}>
              <Soft>
                {picture.refusal ?? t`a photograph, ${Math.round((picture.file?.size ?? 0) / 1000)} kB, not sent yet`}
              </Soft>
            </li>
          ))}
        />
      )}
    </Form>
  );
}
