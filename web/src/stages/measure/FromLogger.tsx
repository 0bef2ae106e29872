import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { POST, Problem, type Schemas, dataOf } from "../../api/client";
import { only } from "../../api/outbox";
import { TraceLine } from "../../charts/TraceLine";
import { clock } from "../../format";
import { Button, MainButton } from "../../ui/Button";
import { Num, Row, Soft } from "../../ui/layout";
import { Bullets } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { newId } from "../../api/newId";
import { type Outbox } from "../../lab/useOutbox";

type Preview = Schemas["PreviewTrace"];
const pairs = (trace: { times_s: number[]; volts_v: number[] }) =>
  trace.times_s.map((t, index) => [t, trace.volts_v[index] ?? 0] as const);

async function previewOf(file: File): Promise<Preview> {
  const form = new FormData();
  form.append("file", file);
  return dataOf(
    POST("/api/bench/traces/preview", { body: form as never, bodySerializer: (body: unknown) => body as FormData }),
  );
}

type Props = {
  cell: Schemas["BenchCell"];
  open: boolean;
  outbox: Outbox;
  take: (text: string) => void;
};

/** A data logger's file: what was understood of it is shown first, then it can be kept, and its end read off. */
export function FromLogger({ cell, open, outbox, take }: Props) {
  const [chosen, setChosen] = useState<{ file: File; preview: Preview } | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const waiting = only(outbox.waiting, "trace").filter((one) => one.cell_id === cell.id);

  const look = async (files: FileList | null) => {
    const file = files?.[0];
    if (!file) return;
    setProblem(null);
    try {
      setChosen({ file, preview: await previewOf(file) });
    } catch (error) {
      setChosen(null);
      if (error instanceof Problem) setProblem(error);
      else throw error;
    }
  };

  const keep = async () => {
    if (!chosen) return;
    const id = newId();
    const body = { id, cell_id: cell.id, device_at: new Date().toISOString() };
    const refusal = await outbox.add({ kind: "trace", id, cell_id: cell.id, body, file: chosen.file });
    if (refusal === null) {
      take(chosen.preview.read_text);
      setChosen(null);
    }
  };

  const preview = chosen?.preview;
  return (
    <>
      {cell.beside.traces.map((trace) => (
        <div key={trace.id}>
          <Soft>{trace.name}</Soft>
          <TraceLine points={pairs(trace)} label={t`Trace ${trace.name}`} />
        </div>
      ))}
      {waiting.map((one) => (
        <Soft key={one.id}>
          {one.file?.name}: {one.refusal ?? t`safe on this device, not sent yet`}
        </Soft>
      ))}
      <Row>
        <FileTrigger acceptedFileTypes={[".csv", ".txt", ".tsv"]} onSelect={(files) => void look(files)}>
          <Button isDisabled={!open}>
            <Trans>Choose a file</Trans>
          </Button>
        </FileTrigger>
        <Soft>
          <Trans>CSV with a time and a voltage on each line</Trans>
        </Soft>
      </Row>
      <ProblemNote problem={problem} />
      {preview && chosen && (
        <section aria-label={t`What was understood of ${chosen.file.name}`}>
          <p>
            <Trans>
              {plural(preview.rows, { one: "# sample", other: "# samples" })} over <Num>{clock(preview.seconds)}</Num>:
              time from “{preview.time_column}”, {preview.unit === "mV" ? t`millivolts` : t`volts`} from “
              {preview.volts_column}”, {preview.delimiter} between columns, decimal{" "}
              {preview.decimal === "," ? t`comma` : t`point`}
            </Trans>
            {preview.others.length > 0 && t`; not used: ${preview.others.join(", ")}`}.
          </p>
          {preview.skipped_count > 0 && (
            <>
              <p>
                <Trans>{plural(preview.skipped_count, { one: "# line", other: "# lines" })} left out:</Trans>
              </p>
              <Bullets items={preview.skipped} />
            </>
          )}
          <TraceLine points={pairs(preview)} label={t`Trace ${chosen.file.name}`} />
          <p>
            <Trans>
              {preview.steady === null
                ? t`Too few samples at the end to say whether it is steady.`
                : preview.steady
                  ? t`Steady at the end.`
                  : t`Still moving at the end.`}{" "}
              It reads <Num>{preview.read_text}</Num> V there.
            </Trans>
          </p>
          <Row>
            <MainButton onPress={() => void keep()}>
              <Trans>Keep the trace, put {preview.read_text} V in the box</Trans>
            </MainButton>
            <Button onPress={() => setChosen(null)}>
              <Trans>Not this file</Trans>
            </Button>
          </Row>
        </section>
      )}
    </>
  );
}
