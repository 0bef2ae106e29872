import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";
import { only } from "../../api/outbox";
import { Button, MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Column, Row, Soft } from "../../ui/layout";
import { Select } from "../../ui/Select";
import type { View } from "./packView";

const AS_IT_SAYS = { key: "", name: t`as the file says` };
const TIMES = [
  AS_IT_SAYS,
  { key: "s", name: t`seconds` },
  { key: "min", name: t`minutes` },
  { key: "h", name: t`hours` },
];
const VALUES = [AS_IT_SAYS, ...["V", "mV", "A", "mA", "µA"].map((unit) => ({ key: unit, name: unit }))];

/** A logger's file of the pack: when its last sample was taken, and its units where the file does not name them. */
export function RunFileForm({ view, outbox, open }: { view: View; outbox: Outbox; open: boolean }) {
  const [file, setFile] = useState<File | null>(null);
  const [time, setTime] = useState("");
  const [value, setValue] = useState("");
  const [ended, setEnded] = useState("0");
  const [wrong, setWrong] = useState<string | null>(null);
  const waiting = only(outbox.waiting, "runFile").filter((one) => one.body.pack_id === view.id && one.refusal === null);
  const keep = async () => {
    if (!file) return;
    const id = newId();
    const minutes = ended.trim().replace(",", ".") || "0";
    if (!(Number(minutes) >= 0)) return setWrong(t`Say in minutes how long ago the logger took its last sample.`);
    const body = {
      id,
      pack_id: view.id,
      device_at: new Date().toISOString(),
      time_unit: time,
      value_unit: value,
      ended_min: minutes,
    };
    const chosen = file;
    setFile(null);
    const refusal = await outbox.add({ kind: "runFile", id, cell_id: view.id, body, file: chosen });
    setWrong(refusal);
    if (refusal === null) return;
    await outbox.remove(id);
    setFile((later) => later ?? chosen);
  };
  return (
    <Column as="div" style={{ padding: 0 }}>
      {(view.kept?.files ?? []).map((one) => (
        <Soft key={one.id}>
          <Trans>
            {one.name}: {plural(one.rows, { one: "# sample", other: "# samples" })}, in the chart above.
          </Trans>
        </Soft>
      ))}
      {waiting.map((one) => (
        <Soft key={one.id}>
          <Trans>{one.file?.name}: safe on this device, not sent yet</Trans>
        </Soft>
      ))}
      <Row>
        <FileTrigger
          acceptedFileTypes={[".csv", ".txt", ".tsv"]}
          onSelect={(files) => {
            setFile(files?.[0] ?? null);
            setWrong(null);
          }}
        >
          <Button isDisabled={!open}>
            <Trans>Choose a file</Trans>
          </Button>
        </FileTrigger>
        <Soft>
          <Trans>CSV with times and volts or milliamps</Trans>
        </Soft>
      </Row>
      {file && (
        <>
          <p>{file.name}</p>
          <TextField
            label={t`Its last sample was how many minutes ago?`}
            value={ended}
            onChange={setEnded}
            inputMode="decimal"
            maxLength={8}
          />
          <Row>
            <Select label={t`Times are in`} options={TIMES} value={time} onChange={setTime} />
            <Select label={t`Values are in`} options={VALUES} value={value} onChange={setValue} />
          </Row>
          <p>
            <MainButton onPress={() => void keep()}>
              <Trans>Keep it with this pack</Trans>
            </MainButton>
          </p>
        </>
      )}
      {wrong && (
        <p role="alert">
          <Trans>{wrong} Nothing is kept yet; the file is still chosen.</Trans>
        </p>
      )}
    </Column>
  );
}
