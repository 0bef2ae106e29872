import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { lower } from "../../format";
import type { Schemas } from "../../api/client";
import type { Outbox } from "../../lab/useOutbox";
import { Button, TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { Copy } from "../../ui/Copy";
import { TextField } from "../../ui/fields";
import { Row, Small, Soft } from "../../ui/layout";
import { type Citable, keyOf } from "./citable";
import { useWriting } from "./useWriting";
import { Evidence, Remarked, Versions } from "./Words";

const MOST = 6000;

type Props = { part: Schemas["PartOut"]; all: Citable[]; outbox: Outbox };

/** A part that a group writes: kept by itself, with what it points at, and all its versions. */
export function PartEditor({ part, all, outbox }: Props) {
  const { text, cites, unsent, held, refused, typing, write, settle, cite, take } = useWriting(part, outbox);
  const pointed = new Set(cites.map(keyOf));
  const press = (one: Citable) =>
    cite(
      pointed.has(keyOf(one))
        ? cites.filter((other) => keyOf(other) !== keyOf(one))
        : [...cites, { kind: one.kind, id: one.id }],
    );
  const groups = [...new Set(all.map((one) => one.about))];
  return (
    <>
      <Remarked part={part} />
      <TextField
        label={part.asks}
        value={text}
        onChange={write}
        onBlur={settle}
        rows={Math.min(16, Math.max(4, text.split("\n").length + Math.floor(text.length / 80)))}
        maxLength={MOST}
      />
      <Small role="status">
        {typing
          ? t`writing…`
          : held
            ? t`safe on this device. ${held}`
            : unsent
              ? t`safe on this device, not sent yet`
              : text
                ? t`kept`
                : ""}
      </Small>
      {refused.map((one) => (
        <Soft key={one.id}>
          <Trans>
            Not kept: {one.refusal} It began “{one.body.text.slice(0, 40)}…”.
          </Trans>{" "}
          <Copy text={one.body.text} label={t`Copy it`} />{" "}
          <TextButton onPress={() => void outbox.remove(one.id)}>
            <Trans>I have it</Trans>
          </TextButton>
        </Soft>
      ))}
      {part.parallel && (
        <Soft role="status">
          <Trans>
            Another device of your group wrote here at the same time. Its words are among the versions; nothing is lost.
          </Trans>
        </Soft>
      )}
      <Evidence cites={cites} all={all} />
      {all.length > 0 && (
        <Disclosure
          title={t`Point at your evidence`}
          detail={cites.length > 0 ? t`${cites.length} chosen` : lower(part.name)}
        >
          {groups.map((about) => (
            <Row key={about} role="group" aria-label={about}>
              <Small>{about}</Small>
              {all
                .filter((one) => one.about === about)
                .map((one) => (
                  <Button key={keyOf(one)} aria-pressed={pointed.has(keyOf(one))} onPress={() => press(one)}>
                    {pointed.has(keyOf(one)) ? "✓ " : ""}
                    {one.name}
                  </Button>
                ))}
            </Row>
          ))}
        </Disclosure>
      )}
      <Versions part={part} group={null} take={take} />
    </>
  );
}
