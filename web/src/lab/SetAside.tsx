import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import { useSetAside } from "../api/room";
import { Button, TextButton } from "../ui/Button";
import { TextField } from "../ui/fields";
import { Row } from "../ui/layout";
import { ProblemNote } from "../ui/ProblemNote";

const End = styled(Row)`
  align-items: end;
`;

type Props = { kind: "readings" | "groups"; id: string; aside: string; before?: () => void };

/** A reason, then set aside; or take it back. Nothing is hidden by it. */
export function SetAside({ kind, id, aside, before }: Props) {
  const set = useSetAside();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const what = kind === "readings" ? t`Set aside, with a reason` : t`Set all of this group’s readings aside`;
  if (aside)
    return (
      <>
        <TextButton
          onPress={() => {
            before?.();
            set.mutate({ kind, id, reason: "" });
          }}
        >
          <Trans>Take it back</Trans>
        </TextButton>
        <ProblemNote problem={set.error} />
      </>
    );
  if (!asking) return <TextButton onPress={() => setAsking(true)}>{what}</TextButton>;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!reason.trim()) return;
        before?.();
        set.mutate({ kind, id, reason }, { onSuccess: () => setAsking(false) });
      }}
    >
      <End>
        <TextField label={t`Reason`} value={reason} onChange={setReason} maxLength={200} autoFocus />
        <Button type="submit" isDisabled={!reason.trim()}>
          <Trans>Set aside</Trans>
        </Button>
        <TextButton onPress={() => setAsking(false)}>
          <Trans>Let it count</Trans>
        </TextButton>
      </End>
      <ProblemNote problem={set.error} />
    </form>
  );
}
