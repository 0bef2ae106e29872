import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { only } from "../../api/outbox";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Row, Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { useKept } from "../../ui/useKept";
import { Photographs } from "./Photographs";
import { shrink } from "./shrink";
import { type Outbox, newId } from "../../lab/useOutbox";

const Form = styled.form`
  display: grid;
  gap: 0.6rem;
`;

const Wrong = styled.p`
  color: ${colour.wrong};
  font-weight: 600;
`;

const QUICK = ["bubbles", "colour changes", "a film on the plate", "no change to see"];
const time = (iso: string) => new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

type Props = { cell: Schemas["BenchCell"]; open: boolean; outbox: Outbox };

/** What the group sees at this cell, in words and pictures, each with its time. */
export function Seen({ cell, open, outbox }: Props) {
  const [text, setText] = useKept(`${outbox.group}:seen:${cell.id}`, "");
  const [wrong, setWrong] = useState<string | null>(null);
  const { observations, photos } = cell.beside;
  const notes = only(outbox.waiting, "note").filter(
    (one) => one.cell_id === cell.id && !observations.some(({ id }) => id === one.id),
  );
  const pictures = only(outbox.waiting, "photo").filter(
    (one) => one.cell_id === cell.id && !photos.some(({ id }) => id === one.id),
  );
  const at = () => new Date().toISOString();

  const keep = async () => {
    if (!text.trim()) return setWrong("Write what you see first.");
    const id = newId();
    const typed = text;
    setText("");
    const body = { id, cell_id: cell.id, text: typed, device_at: at() };
    const refusal = await outbox.add({ kind: "note", id, cell_id: cell.id, body });
    if (refusal === null) return setWrong(null);
    await outbox.remove(id);
    setText((now) => now || typed);
    setWrong(refusal);
  };

  const add = async (chosen: FileList | null) => {
    for (const picked of chosen ?? []) {
      const id = newId();
      let file: File;
      try {
        file = await shrink(picked);
      } catch {
        setWrong(`“${picked.name}” is no picture this browser can read. Choose a JPEG, PNG or WebP picture.`);
        continue;
      }
      const body = { id, cell_id: cell.id, device_at: at() };
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
      {observations.length + notes.length > 0 && (
        <ul aria-label="What you noted">
          {observations.map((observation) => (
            <li key={observation.id}>
              {time(observation.received_at)} {observation.text}
            </li>
          ))}
          {notes.map((note) => (
            <li key={note.id}>
              {note.body.text} <Soft as="span">{note.refusal ?? "safe on this device, not sent yet"}</Soft>
            </li>
          ))}
        </ul>
      )}
      <TextField
        label="What do you see?"
        value={text}
        onChange={(value) => {
          setText(value);
          setWrong(null);
        }}
        maxLength={300}
        rows={2}
        isDisabled={!open}
      />
      <Row role="group" aria-label="Often seen">
        {QUICK.map((one) => (
          <Button key={one} isDisabled={!open} onPress={() => setText((now) => (now ? `${now}, ${one}` : one))}>
            {one}
          </Button>
        ))}
      </Row>
      <Row>
        <Button type="submit" isDisabled={!open}>
          Keep this note
        </Button>
        <FileTrigger
          acceptedFileTypes={["image/jpeg", "image/png", "image/webp"]}
          onSelect={(chosen) => void add(chosen)}
        >
          <Button isDisabled={!open}>Add a photograph</Button>
        </FileTrigger>
        <Soft>Plates only, no faces.</Soft>
      </Row>
      {wrong && <Wrong role="alert">{wrong}</Wrong>}
      {photos.length + pictures.length > 0 && (
        <Photographs
          photos={photos}
          more={pictures.map((picture) => (
            <li key={picture.id}>
              <Soft>
                {picture.refusal ?? `a photograph, ${Math.round((picture.file?.size ?? 0) / 1000)} kB, not sent yet`}
              </Soft>
            </li>
          ))}
        />
      )}
    </Form>
  );
}
